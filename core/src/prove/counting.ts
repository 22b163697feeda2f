import { chiSquareQuantile } from '../numerics/index.ts';
import type { VerdictState } from '../verdict/guardBand.ts';

export interface CountTrial {
  readonly truth: number;
  readonly counted: number;
}

export interface CountingResult {
  /** Counted less true over true, for each trial. */
  readonly errors: readonly number[];
  /** All trials together. */
  readonly pooledError: number;
  /** Largest size of a single trial's error. */
  readonly worst: number;
  readonly state: VerdictState;
  readonly sentence: string;
}

/**
 * A counter against counting by hand. Fewer than three trials or under 30 true counts together show nothing.
 * @param tolerance allowed relative error, 0.05 for 5 %
 * @throws {RangeError} for a trial without a true count
 */
export function counting(trials: readonly CountTrial[], tolerance: number): CountingResult {
  for (const t of trials) {
    if (!(t.truth > 0) || !(t.counted >= 0))
      throw new RangeError(
        `A counting trial needs a true count above 0 and a counted one of 0 or more; received ${t.truth} and ${t.counted}. Test false counts separately.`,
      );
  }
  const errors = trials.map((t) => (t.counted - t.truth) / t.truth);
  const truth = trials.reduce((s, t) => s + t.truth, 0);
  const pooledError = truth > 0 ? trials.reduce((s, t) => s + t.counted - t.truth, 0) / truth : Number.NaN;
  const worst = errors.reduce((m, e) => Math.max(m, Math.abs(e)), 0);
  const enough = trials.length >= 3 && truth >= 30;
  // One count more or less at each end of a trial is no fault of the counter.
  const margin = trials.length / Math.max(1, truth);
  const state: VerdictState = !enough
    ? 'not shown'
    : Math.abs(pooledError) + margin <= tolerance
      ? 'pass'
      : Math.abs(pooledError) - margin > tolerance
        ? 'fail'
        : 'not shown';
  const percent = (v: number) => `${(100 * v).toFixed(1)} %`;
  return {
    errors,
    pooledError,
    worst,
    state,
    sentence: enough
      ? `${percent(pooledError)} over ${truth} counts in ${trials.length} trials, give or take ${percent(margin)}; ±${percent(tolerance)} is allowed.`
      : `${trials.length} trials with ${truth} counts; three trials and 30 counts are needed.`,
  };
}

export interface FalseCounts {
  readonly perMinute: number;
  /** The true rate is below this with 95 % confidence (exact Poisson limit). */
  readonly upper95PerMinute: number;
  readonly state: VerdictState;
}

/** False counts while nothing happened: even none in a short test only shows that the rate is below 3 over its length. */
export function falseCounts(count: number, minutes: number, allowedPerMinute: number): FalseCounts {
  if (!(minutes > 0) || !Number.isInteger(count) || count < 0)
    throw new RangeError(
      `A negative test needs a whole number of false counts and a length above 0; received ${count} in ${minutes} min.`,
    );
  const upper = chiSquareQuantile(0.95, 2 * (count + 1)) / 2 / minutes;
  const lower = count === 0 ? 0 : chiSquareQuantile(0.05, 2 * count) / 2 / minutes;
  return {
    perMinute: count / minutes,
    upper95PerMinute: upper,
    state: upper <= allowedPerMinute ? 'pass' : lower > allowedPerMinute ? 'fail' : 'not shown',
  };
}
