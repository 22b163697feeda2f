import {
  autocovariance,
  chiSquareCdf,
  effectiveCount,
  normalQuantile,
  sampleSd,
  studentTQuantile,
  together,
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
 * Source: Bartlett, J. R. Stat. Soc. Suppl. 8 (1946) 27.
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
  const { ofMean, lags } = together(covariance);
  const alike = covariance.subarray(0, lags).map((c) => ((c + ofMean) / (covariance[0]! + ofMean)) ** 2);
  const squares = alike.reduce((sum, v) => sum + v, 0);
  return {
    count: n / Math.max(1, 2 * squares - 1),
    ofMean: ofMean / covariance[0]!,
    freedom: n / Math.max(1, lags / 2),
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
