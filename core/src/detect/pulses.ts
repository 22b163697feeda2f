import { crossingTime, type Detector, type Emit } from './detector.ts';

export interface Pulse {
  readonly startS: number;
  readonly endS: number;
  readonly widthS: number;
  readonly peak: number;
  readonly peakS: number;
  /** Area above zero between start and end, signal times second, by the trapezoid rule. */
  readonly area: number;
  /** True when the recording ended before the pulse did. */
  readonly open: boolean;
}

/**
 * Pulses above a level: from the rising crossing to the falling one, where the signal also leaves the hysteresis. Area from
 * crossing to crossing: the impulse, when the signal is a force.
 */
export function pulses(level: number, hysteresis: number, emit: Emit<Pulse>): Detector {
  if (!(hysteresis >= 0)) throw new RangeError(`The hysteresis must be 0 or more; received ${hysteresis}.`);
  let t0 = Number.NaN;
  let x0 = Number.NaN;
  let now: { startS: number; peak: number; peakS: number; area: number } | null = null;
  let leaving: { t: number; area: number } | null = null;
  const close = (endS: number, area: number, open: boolean) => {
    const { startS, peak, peakS } = now!;
    emit({ startS, endS, widthS: endS - startS, peak, peakS, area, open });
    now = null;
    leaving = null;
  };
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      const piece = ((x + x0) / 2) * (t - t0);
      if (now) {
        if (x0 >= level && x < level) {
          const at = crossingTime(t0, x0, t, x, level);
          leaving = { t: at, area: now.area + ((x0 + level) / 2) * (at - t0) };
        }
        now.area += piece;
        if (x >= level) leaving = null;
        if (x > now.peak) {
          now.peak = x;
          now.peakS = t;
        }
        if (leaving && x < level - hysteresis) close(leaving.t, leaving.area, false);
      } else if (x0 < level && x >= level) {
        const startS = crossingTime(t0, x0, t, x, level);
        now = { startS, peak: x, peakS: t, area: ((level + x) / 2) * (t - startS) };
      }
      t0 = t;
      x0 = x;
    },
    finish() {
      if (now) close(t0, now.area, true);
    },
  };
}
