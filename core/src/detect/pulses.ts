import { crossingTime, type Detector, type Emit } from './detector.ts';
import { checkConfirmation, confirm, nothingConfirmed, type ConfirmMemory, type NOfM } from './gates.ts';
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
    /** Whether so many readings lay above as were wanted. */
    confirmed: boolean;
  } | null;
  leaving: { t: number; area: number } | null;
  confirm: ConfirmMemory;
}

export interface PulseRule extends Partial<NOfM> {
  readonly level: number;
  /** How far below the level it must fall before the pulse has ended, 0 or more. */
  readonly hysteresis: number;
}

/** What is told besides the pulses. */
export interface PulseListener {
  /** The level was passed upwards just now; it may not be confirmed yet. */
  comes?(startS: number): void;
  /** A pulse has begun. */
  begins?(startS: number): void;
  /** Too few readings lay above: it was none. */
  fails?(startS: number): void;
}

export interface PulseDetector extends Detector {
  /** Between pulses, place of the first sample that is not below the level; in one, where it was asked from. */
  quietUntil(values: Float64Array, from: number, to: number): number;
}

export const noPulses = (): PulseMemory => ({
  t0: Number.NaN,
  x0: Number.NaN,
  now: null,
  leaving: null,
  confirm: nothingConfirmed(),
});

/**
 * Pulses above a level: from the rising crossing to the falling one, where the signal also leaves the hysteresis. Area from
 * crossing to crossing: the impulse, when the signal is a force. With a confirmation, n of the m readings from a crossing on
 * must lie beyond, at the begin and at the end: something short that passes is no pulse, and a gap in one does not cut it.
 * @throws {RangeError} for a negative hysteresis, or a confirmation that cannot be
 */
export function pulses(
  { level, hysteresis, n = 1, m: of = 1 }: PulseRule,
  emit: Emit<Pulse>,
  m: PulseMemory = noPulses(),
  listener: PulseListener = {},
): PulseDetector {
  if (!(hysteresis >= 0)) throw new RangeError(`Enter a hysteresis of 0 or more; received ${hysteresis}.`);
  const wanted = { n, m: of };
  checkConfirmation(wanted);
  const close = (endS: number, area: number, open: boolean) => {
    const { startS, peak, peakS, before, after } = m.now!;
    const top = Math.max(peak, vertex(before, { t: peakS, x: peak }, after).value);
    emit({ startS, endS, widthS: endS - startS, peak, peakS, top, area, open });
    m.now = null;
    m.leaving = null;
  };
  const begin = (x: number) => {
    const answer = confirm(wanted, m.confirm, x >= level);
    if (answer === 'open') return;
    const { startS } = m.now!;
    if (answer === 'yes') {
      m.now!.confirmed = true;
      listener.begins?.(startS);
    } else {
      m.now = null;
      listener.fails?.(startS);
    }
  };
  const end = (x: number) => {
    // Between the level and the band's lower end it is neither here nor there.
    if (!m.leaving || (x < level && x >= level - hysteresis)) return;
    const answer = confirm(wanted, m.confirm, x < level);
    if (answer === 'yes') {
      const { t: endS, area } = m.leaving;
      close(endS, area, false);
    } else if (answer === 'no') m.leaving = null;
  };
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      const { t0, x0, now } = m;
      if (now) {
        if (now.confirmed && !m.leaving && x0 >= level && x < level) {
          const at = crossingTime(t0, x0, t, x, level);
          m.leaving = { t: at, area: now.area + ((x0 + level) / 2) * (at - t0) };
        }
        now.area += ((x + x0) / 2) * (t - t0);
        if (x > now.peak) Object.assign(now, { peak: x, peakS: t, before: { t: t0, x: x0 }, after: null });
        else now.after ??= { t, x };
        if (now.confirmed) end(x);
        else begin(x);
      } else if (x0 < level && x >= level) {
        const startS = crossingTime(t0, x0, t, x, level);
        m.now = {
          startS,
          peak: x,
          peakS: t,
          area: ((level + x) / 2) * (t - startS),
          before: { t: t0, x: x0 },
          after: null,
          confirmed: false,
        };
        listener.comes?.(startS);
        begin(x);
      }
      m.t0 = t;
      m.x0 = x;
    },
    quietUntil(values, from, to) {
      let i = from;
      // One that is no number ends it as well.
      if (!m.now) while (i < to && values[i]! < level) i++;
      return i;
    },
    finish() {
      if (m.now?.confirmed) close(m.t0, m.now.area, true);
    },
  };
}
