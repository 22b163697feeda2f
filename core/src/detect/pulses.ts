import { crossingTime, type Detector, type Emit } from './detector.ts';
import { vertex, type Sample } from './vertex.ts';

export interface Pulse {
  readonly startS: number;
  readonly endS: number;
  readonly widthS: number;
  /** Highest sample. */
  readonly peak: number;
  readonly peakS: number;
  /** Top of the parabola through it and its neighbours: what lies between the samples. */
  readonly top: number;
  /** Area above zero between start and end, signal times second, by the trapezoid rule. */
  readonly area: number;
  /** True when the recording ended before the pulse did. */
  readonly open: boolean;
}

export interface PulseMemory {
  t0: number;
  x0: number;
  now: {
    startS: number;
    peak: number;
    peakS: number;
    area: number;
    before: Sample | null;
    after: Sample | null;
  } | null;
  leaving: { t: number; area: number } | null;
}

export const noPulses = (): PulseMemory => ({ t0: Number.NaN, x0: Number.NaN, now: null, leaving: null });

/**
 * Pulses above a level: from the rising crossing to the falling one, where the signal also leaves the hysteresis. Area from
 * crossing to crossing: the impulse, when the signal is a force.
 * @param begins told of each start
 */
export function pulses(
  level: number,
  hysteresis: number,
  emit: Emit<Pulse>,
  m: PulseMemory = noPulses(),
  begins: (startS: number) => void = () => undefined,
): Detector {
  if (!(hysteresis >= 0)) throw new RangeError(`The hysteresis must be 0 or more; received ${hysteresis}.`);
  const close = (endS: number, area: number, open: boolean) => {
    const { startS, peak, peakS, before, after } = m.now!;
    const top = Math.max(peak, vertex(before, { t: peakS, x: peak }, after).value);
    emit({ startS, endS, widthS: endS - startS, peak, peakS, top, area, open });
    m.now = null;
    m.leaving = null;
  };
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      const { t0, x0 } = m;
      const piece = ((x + x0) / 2) * (t - t0);
      if (m.now) {
        if (x0 >= level && x < level) {
          const at = crossingTime(t0, x0, t, x, level);
          m.leaving = { t: at, area: m.now.area + ((x0 + level) / 2) * (at - t0) };
        }
        m.now.area += piece;
        if (x >= level) m.leaving = null;
        if (x > m.now.peak)
          Object.assign(m.now, { peak: x, peakS: t, before: { t: t0, x: x0 }, after: null });
        else m.now.after ??= { t, x };
        if (m.leaving && x < level - hysteresis) close(m.leaving.t, m.leaving.area, false);
      } else if (x0 < level && x >= level) {
        const startS = crossingTime(t0, x0, t, x, level);
        m.now = {
          startS,
          peak: x,
          peakS: t,
          area: ((level + x) / 2) * (t - startS),
          before: { t: t0, x: x0 },
          after: null,
        };
        begins(startS);
      }
      m.t0 = t;
      m.x0 = x;
    },
    finish() {
      if (m.now) close(m.t0, m.now.area, true);
    },
  };
}
