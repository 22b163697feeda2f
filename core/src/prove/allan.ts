export interface AllanPoint {
  /** Readings averaged. */
  readonly m: number;
  readonly tauS: number;
  /** Without overlap. */
  readonly deviation: number;
  /** With overlap: uses every start, so it scatters less. */
  readonly overlapping: number;
  /** Standard deviation of such means from all starts: what swings slowly is in it, and only in it. */
  readonly ofMeans: number;
}

/**
 * Allan deviation of readings: how much means of m readings differ from the next such mean.
 * @param readings n readings at an even rate, none NaN
 * @param factors averaging factors; those that leave fewer than two means are left out
 * @throws {RangeError} with fewer than three readings or a factor that is no whole number from 1
 * Source: NIST Special Publication 1065 (Riley 2008), 5.2.2 and 5.2.4.
 */
export function allan(
  readings: ArrayLike<number>,
  sampleRateHz: number,
  factors: readonly number[],
): AllanPoint[] {
  const n = readings.length;
  if (n < 3) throw new RangeError(`At least 3 readings are needed for an Allan deviation; received ${n}.`);
  // Sums from the start: a mean over any stretch is a difference of two.
  const sum = new Float64Array(n + 1);
  let centre = 0;
  for (let i = 0; i < n; i++) centre += readings[i]! / n;
  for (let i = 0; i < n; i++) sum[i + 1] = sum[i]! + readings[i]! - centre;
  return factors
    .filter((m) => {
      if (!Number.isInteger(m) || m < 1)
        throw new RangeError(`The averaging factor must be a whole number of 1 or more; received ${m}.`);
      return 2 * m <= n;
    })
    .map((m) => ({
      m,
      tauS: m / sampleRateHz,
      deviation: deviation(sum, n, m, m),
      overlapping: deviation(sum, n, m, 1),
      ofMeans: scatterOfMeans(sum, n, m),
    }));
}

function deviation(sum: Float64Array, n: number, m: number, step: number): number {
  let squares = 0;
  let count = 0;
  for (let i = 0; i + 2 * m <= n; i += step) {
    squares += (sum[i + 2 * m]! - 2 * sum[i + m]! + sum[i]!) ** 2;
    count++;
  }
  return Math.sqrt(squares / (2 * m * m * count));
}

function scatterOfMeans(sum: Float64Array, n: number, m: number): number {
  const count = n - m + 1;
  let [total, squares] = [0, 0];
  for (let i = 0; i < count; i++) {
    const mean = (sum[i + m]! - sum[i]!) / m;
    total += mean;
    squares += mean * mean;
  }
  return Math.sqrt(Math.max(0, squares - total ** 2 / count) / Math.max(1, count - 1));
}

/** Averaging longer than this no longer helps: the factor with the least overlapping deviation. Null without points. */
export function bestAveraging(points: readonly AllanPoint[]): AllanPoint | null {
  return points.reduce<AllanPoint | null>(
    (best, p) => (best === null || p.overlapping < best.overlapping ? p : best),
    null,
  );
}
