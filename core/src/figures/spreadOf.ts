import {
  autocovariance,
  chiSquareCdf,
  effectiveCount,
  normalQuantile,
  sampleSd,
  studentTQuantile,
} from '../numerics/index.ts';

/** What a standard deviation is worth as that of all that could have been read. */
export interface SpreadWorth {
  /** So much larger it is with what the mean takes of it put back. */
  readonly whole: number;
  /** Standard uncertainty as a share of it: twice this holds the true one in 95 of 100. */
  readonly share: number;
}

/** Squares that scatter by less than their mean come of something that swings alike again and again, where they are many. */
const SWINGS = 1;
const MANY = 50;
/** Squares that scatter by so much more than normal ones have tails; a little more they have by chance. */
const TAILS = 1.25;

/**
 * Of readings that hang together. The squares of normal readings hang together by the squares of what these do, which is
 * known far better than what their own squares show.
 * Sources: Bartlett, J. R. Stat. Soc. Suppl. 8 (1946) 27; Geyer, Statistical Science 7 (1992) 473 (initial monotone sequence).
 * @param around readings less their mean
 */
export function spreadOf(around: readonly number[]): SpreadWorth {
  const { count, ofMean, freedom } = countOfSquares(around);
  const sd = sampleSd(around);
  const n = around.length;
  const whole = Math.sqrt((1 + ofMean) * ((n - 1) / n));
  const squares = around.map((v) => v * v);
  const scatter = sampleSd(squares) / sd ** 2;
  if (scatter < SWINGS && count > MANY)
    return { whole, share: scatter / (2 * Math.sqrt(Math.max(1, effectiveCount(squares) - 1))) };
  const tails = scatter / Math.SQRT2 > TAILS ? scatter / Math.SQRT2 : 1;
  const few = studentTQuantile(0.975, freedom) / normalQuantile(0.975);
  return { whole, share: few * shareOf(Math.max(1, count / tails ** 2)) };
}

interface SquaresWorth {
  /** How many independent squares they are worth. */
  readonly count: number;
  /** Variance of the mean of the readings, as a share of their own. */
  readonly ofMean: number;
  /** Stretches that told how far they hang together. */
  readonly freedom: number;
}

function countOfSquares(around: readonly number[]): SquaresWorth {
  const n = around.length;
  const covariance = autocovariance(around);
  let ofMean = 0;
  let squares = 0;
  let pairs = 0;
  // The mean is one of the readings themselves, so that each autocovariance comes out too low by its variance.
  for (let round = 0; round < 6; round++) {
    const all = covariance[0]! + ofMean;
    let sum = 0;
    squares = pairs = 0;
    let before = Number.POSITIVE_INFINITY;
    for (let lag = 0; lag + 1 < n / 2; lag += 2) {
      const [even, odd] = [covariance[lag]! + ofMean, covariance[lag + 1]! + ofMean];
      if (even + odd <= ofMean) break;
      before = Math.min(even + odd, before);
      sum += before;
      pairs++;
      squares += (even ** 2 + odd ** 2) / all ** 2;
    }
    const next = Math.max(2 * sum - all, 1e-4 * covariance[0]!) / n;
    const isSettled = Math.abs(next - ofMean) < 1e-3 * next;
    ofMean = next;
    if (isSettled) break;
  }
  return {
    count: n / Math.max(1, 2 * squares - 1),
    ofMean: ofMean / covariance[0]!,
    freedom: n / Math.max(1, pairs),
  };
}

/** Half of the share of a standard deviation of so many degrees of freedom that holds the true one in 95 of 100, either way. */
function shareOf(freedom: number): number {
  const held = (q: number) =>
    (q < 1 ? chiSquareCdf(freedom / (1 - q) ** 2, freedom) : 1) -
    chiSquareCdf(freedom / (1 + q) ** 2, freedom);
  let [low, high] = [0, 30];
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (held(middle) < 0.95) low = middle;
    else high = middle;
  }
  return low / 2;
}
