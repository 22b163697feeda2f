import { chiSquareQuantile, findRoot, incompleteBeta, studentTQuantile } from '../numerics/index.ts';
import { printNumber } from '../units/index.ts';
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
  /** Half-width of the 95 % interval of the pooled error, by how the trials scatter; Infinity for a single one. */
  readonly pooledHalfWidth95: number;
  /** Largest size of a single trial's error. */
  readonly worst: number;
  /** Counts that are lacking in trials that counted too few, and too many in the others: at least so many. */
  readonly missed: number;
  readonly extra: number;
  readonly state: VerdictState;
  /** Why it is not shown, or by what it fails; empty when it passes. */
  readonly why: string;
}

/** Trials and true counts below which nothing is shown. */
const LEAST_TRIALS = 3;
const LEAST_COUNTS = 30;

/**
 * A counter against counting by hand. Errors of several trials may cancel: each single one must keep what is allowed, but
 * for one count at its end, and so must all together with the interval that their scatter leaves.
 * @param tolerance allowed relative error, 0.05 for 5 %
 * @throws {RangeError} for a trial without a true count
 */
export function counting(trials: readonly CountTrial[], tolerance: number): CountingResult {
  for (const t of trials) {
    if (!(t.truth > 0) || !(t.counted >= 0))
      throw new RangeError(
        `A counting trial needs an actual count above 0 and a gadget count of 0 or more; received ${t.truth} and ${t.counted}. Test for false counts separately.`,
      );
  }
  const errors = trials.map((t) => (t.counted - t.truth) / t.truth);
  const truth = trials.reduce((s, t) => s + t.truth, 0);
  const off = trials.map((t) => t.counted - t.truth);
  const pooledError = truth > 0 ? off.reduce((s, v) => s + v, 0) / truth : Number.NaN;
  // A ratio of sums: its scatter is that of what each trial is off, less its share of the pooled error.
  const n = trials.length;
  const scatter = trials.reduce((s, t, i) => s + (off[i]! - pooledError * t.truth) ** 2, 0);
  const byScatter =
    n > 1 ? (studentTQuantile(0.975, n - 1) * Math.sqrt((scatter * n) / (n - 1))) / truth : Infinity;
  // One count more or less at the end of a trial is no fault of the counter, and no proof of it either.
  const pooledHalfWidth95 = Math.max(byScatter, Math.sqrt(n) / Math.max(1, truth));
  const beyond = trials.filter((t, i) => Math.abs(off[i]!) - 1 > tolerance * t.truth);
  const percent = (v: number) => `${printNumber(100 * v, 1)} %`;
  const base = {
    errors,
    pooledError,
    pooledHalfWidth95,
    worst: errors.reduce((m, e) => Math.max(m, Math.abs(e)), 0),
    missed: off.reduce((s, v) => s + Math.max(0, -v), 0),
    extra: off.reduce((s, v) => s + Math.max(0, v), 0),
  };
  if (n > 0 && beyond.length > 0)
    return {
      ...base,
      state: 'fail',
      why: `In ${beyond.length} of ${n} trials the count is off by more than ${percent(tolerance)} plus one count.`,
    };
  if (n < LEAST_TRIALS || truth < LEAST_COUNTS)
    return {
      ...base,
      state: 'not shown',
      why: `${n} ${n === 1 ? 'trial' : 'trials'} with ${truth} manual counts; at least ${LEAST_TRIALS} trials and ${LEAST_COUNTS} counts are needed.`,
    };
  if (Math.abs(pooledError) - pooledHalfWidth95 > tolerance)
    return {
      ...base,
      state: 'fail',
      why: `The combined error of all trials is more than ${percent(tolerance)}.`,
    };
  if (Math.abs(pooledError) + pooledHalfWidth95 > tolerance)
    return {
      ...base,
      state: 'not shown',
      why: `Given the scatter between trials, the error may be as large as ${percent(Math.abs(pooledError) + pooledHalfWidth95)}.`,
    };
  return { ...base, state: 'pass', why: '' };
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
      `Enter a whole number of false counts and a duration above 0; received ${count} in ${minutes} min.`,
    );
  const upper = chiSquareQuantile(0.95, 2 * (count + 1)) / 2 / minutes;
  const lower = count === 0 ? 0 : chiSquareQuantile(0.05, 2 * count) / 2 / minutes;
  return {
    perMinute: count / minutes,
    upper95PerMinute: upper,
    state: upper <= allowedPerMinute ? 'pass' : lower > allowedPerMinute ? 'fail' : 'not shown',
  };
}

export interface CaughtShare {
  /** The true share lies above this with 95 % confidence, and below that (exact binomial limits). */
  readonly lower95: number;
  readonly upper95: number;
}

/** What so many caught of so many show of the share that is caught: even all of three only show more than 37 %. */
export function caughtShare(caught: number, of: number): CaughtShare {
  if (!Number.isInteger(caught) || !Number.isInteger(of) || of < 1 || caught < 0 || caught > of)
    throw new RangeError(
      `${caught} of ${of} events cannot have been caught. Enter whole numbers, with no more caught than actual events.`,
    );
  const [k, missed] = [caught, of - caught];
  return {
    lower95: k === 0 ? 0 : findRoot((p) => incompleteBeta(p, k, missed + 1) - 0.05, 0, 1),
    upper95: missed === 0 ? 1 : findRoot((p) => incompleteBeta(p, k + 1, missed) - 0.95, 0, 1),
  };
}
