import type { Capture } from '../model/calibration.ts';
import { effectiveCount, lowerBound, mean, median, sampleSd } from '../numerics/index.ts';

export interface SteadyLimits {
  /** Length of the window, s. */
  readonly windowS: number;
  /** Largest drift over the window, in raw units. */
  readonly drift: number;
  /** Largest standard deviation in the window, in raw units. */
  readonly scatter: number;
}

export interface SteadyState {
  readonly steady: boolean;
  /** How far back from the newest reading the steadiness reaches, s; 0 when not steady. */
  readonly steadyForS: number;
  /** Why it is not steady, in a maker's words; null when steady. */
  readonly waitingFor: string | null;
  /** Drift over the window by a straight line, raw units. */
  readonly drift: number;
  /** The window as a capture; null when there are too few good readings. */
  readonly capture: Capture | null;
}

/**
 * Judges whether the newest readings stand still.
 * @param times n times in seconds, rising
 * @param values n raw readings
 * @param good true for readings that are numbers within the converter's range; a reason such as "still warming up" or
 *   false for others
 * The drift limit is widened by twice the standard error of the slope, or noise alone could never pass a tight limit.
 * A window that begins or ends with readings of another level is not steady, however few they are: they stand out of its
 * noise, and a mean over both is of neither.
 */
export function steadyWindow(
  times: ArrayLike<number>,
  values: ArrayLike<number>,
  good: (index: number) => boolean | string,
  limits: SteadyLimits,
): SteadyState {
  const n = times.length;
  if (n === 0) return waiting('No readings yet.');
  const newest = times[n - 1]!;
  const from = lowerBound(times, newest - limits.windowS);
  const reach = newest - times[0]!;
  for (let i = n - 1; i >= from; i--) {
    const state = good(i);
    if (state !== true) {
      return waiting(
        state === false
          ? 'A reading in the window is missing or at the end of the ADC range. Check the probe and its wiring.'
          : `A reading in the window is invalid: ${state}.`,
      );
    }
  }
  if (reach < limits.windowS) {
    return waiting(`Waiting for steady readings: ${Math.floor(reach)} of ${limits.windowS} s.`);
  }
  if (n - from < 8) return waiting(`Only ${n - from} readings in ${limits.windowS} s; 8 are needed.`);
  const judged = judge(times, values, from, n, limits);
  if (!judged.steady) {
    return {
      steady: false,
      steadyForS: 0,
      waitingFor: judged.reason,
      drift: judged.drift,
      capture: judged.capture,
    };
  }
  return {
    steady: true,
    steadyForS: steadyReach(times, values, good, limits, newest),
    waitingFor: null,
    drift: judged.drift,
    capture: judged.capture,
  };
}

function waiting(reason: string): SteadyState {
  return { steady: false, steadyForS: 0, waitingFor: reason, drift: Number.NaN, capture: null };
}

function judge(
  times: ArrayLike<number>,
  values: ArrayLike<number>,
  from: number,
  to: number,
  limits: SteadyLimits,
) {
  const t = Array.from({ length: to - from }, (_, i) => times[from + i]!);
  const v = Array.from({ length: to - from }, (_, i) => values[from + i]!);
  const n = v.length;
  const sd = sampleSd(v);
  const centre = mean(t);
  const average = mean(v);
  let sxx = 0;
  let sxy = 0;
  for (let i = 0; i < n; i++) {
    sxx += (t[i]! - centre) ** 2;
    sxy += (t[i]! - centre) * (v[i]! - average);
  }
  const slope = sxx > 0 ? sxy / sxx : 0;
  const drift = slope * limits.windowS;
  const residual = Math.sqrt(Math.max(0, (sd * sd * (n - 1) - slope * sxy) / (n - 2)));
  const driftError = (residual / Math.sqrt(sxx)) * limits.windowS;
  const capture: Capture = {
    mean: average,
    sd,
    n,
    nEffective: effectiveCount(v),
    durationS: t[n - 1]! - t[0]!,
  };
  if (residual > limits.scatter) {
    return {
      steady: false,
      drift,
      capture,
      reason: `Readings scatter by ${residual.toFixed(1)} counts; at most ${limits.scatter.toFixed(1)} is allowed.`,
    };
  }
  if (Math.abs(drift) > limits.drift + 2 * driftError) {
    return {
      steady: false,
      drift,
      capture,
      reason: `Still changing: ${Math.abs(drift).toFixed(1)} counts in ${limits.windowS} s.`,
    };
  }
  const edges = otherLevels(v, limits);
  if (edges.newest || edges.oldest > 0) {
    const restS = t[n - 1]! - t[Math.min(edges.oldest, n - 1)]!;
    return {
      steady: false,
      drift,
      capture,
      reason: edges.newest
        ? 'Just changed.'
        : `Steady for ${Math.floor(10 * restS) / 10} of ${limits.windowS} s.`,
    };
  }
  return { steady: true, drift, capture, reason: null };
}

/** So many standard deviations off the middle of its window a reading is no noise. */
const NO_NOISE = 6;
/** Nearer than this is the flicker of a converter's codes, counts. */
const FLICKER = 2;

/** Whether a window ends with a reading of another level than most of it, and with how many such readings it begins. */
function otherLevels(values: readonly number[], limits: SteadyLimits): { newest: boolean; oldest: number } {
  const middle = median(values);
  const sd = 1.4826 * median(values.map((v) => Math.abs(v - middle)));
  const far = Math.max(NO_NOISE * sd, limits.drift, FLICKER);
  const isOther = (v: number) => Math.abs(v - middle) > far;
  const firstAtRest = values.findIndex((v) => !isOther(v));
  return { newest: isOther(values.at(-1)!), oldest: firstAtRest < 0 ? values.length : firstAtRest };
}

/**
 * How long it has been steady: windows are tried back from the newest reading, one second apart. Each is judged from sums
 * that run back from the newest reading, so that a long rest costs no more than one pass over the readings.
 */
function steadyReach(
  times: ArrayLike<number>,
  values: ArrayLike<number>,
  good: (index: number) => boolean | string,
  limits: SteadyLimits,
  newest: number,
): number {
  const n = times.length;
  const sums = runningSums(times, values);
  let checked = n;
  let reach = limits.windowS;
  for (;;) {
    const end = lowerBound(times, newest - (reach - limits.windowS) - 1);
    const from = lowerBound(times, newest - reach - 1);
    if (end - from < 8 || times[0]! > newest - reach - 1) return reach;
    for (; checked > from; checked--) if (good(checked - 1) !== true) return reach;
    if (!stillBetween(sums(from), sums(end), limits)) return reach;
    reach += 1;
  }
}

/** Count and sums of t, v, t t, v v and t v, of the readings from an index on. */
type Sums = readonly [n: number, t: number, v: number, tt: number, vv: number, tv: number];

/** Sums from an index to the end, worked out as far back as they are asked for, about the newest reading. */
function runningSums(times: ArrayLike<number>, values: ArrayLike<number>): (from: number) => Sums {
  const n = times.length;
  const [t0, v0] = [times[n - 1]!, values[n - 1]!];
  const known: Sums[] = [[0, 0, 0, 0, 0, 0]];
  return (from) => {
    for (let k = known.length; k <= n - from; k++) {
      const [t, v] = [times[n - k]! - t0, values[n - k]! - v0];
      const [c, st, sv, stt, svv, stv] = known[k - 1]!;
      known.push([c + 1, st + t, sv + v, stt + t * t, svv + v * v, stv + t * v]);
    }
    return known[n - from]!;
  };
}

/** The rules of `judge`, for the readings that two sums differ by. */
function stillBetween(longer: Sums, shorter: Sums, limits: SteadyLimits): boolean {
  const [n, t, v, tt, vv, tv] = longer.map((s, i) => s - shorter[i]!) as unknown as Sums;
  const sxx = tt - (t * t) / n;
  const sxy = tv - (t * v) / n;
  const syy = vv - (v * v) / n;
  const slope = sxx > 0 ? sxy / sxx : 0;
  const residual = Math.sqrt(Math.max(0, (syy - slope * sxy) / (n - 2)));
  const driftError = (residual / Math.sqrt(sxx)) * limits.windowS;
  return residual <= limits.scatter && Math.abs(slope * limits.windowS) <= limits.drift + 2 * driftError;
}
