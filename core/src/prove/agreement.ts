import { mean, sampleSd, studentTQuantile, studentTwoSided } from '../numerics/index.ts';

export interface AgreementResult {
  readonly bias: number;
  readonly sd: number;
  /** 95 % limits of agreement, bias -+ 1.96 sd. */
  readonly limits: readonly [number, number];
  /** Half-width of the 95 % interval of each limit, what the other instrument is good to in it; NaN where nobody says. */
  readonly limitHalfWidth95: number;
  /** By the scatter of the pairs alone: whether the two differ. */
  readonly biasInterval95: readonly [number, number];
  /** Half-width of the same about what is true: what the other instrument is good to is in it; NaN where nobody says. */
  readonly biasHalfWidth95: number;
  /** Paired t test: how likely such a bias is by chance. */
  readonly p: number;
  /** Slope of the differences against the means, with its p: the disagreement grows along the scale when p is small. */
  readonly trend: { readonly slope: number; readonly p: number };
  readonly points: readonly { readonly mean: number; readonly difference: number }[];
}

/**
 * Difference analysis of two instruments read side by side (device less reference).
 * @param referenceU standard uncertainty that all readings of the reference share; NaN when not known
 * @throws {RangeError} on unequal lengths, fewer than three pairs or values that are not finite
 * Source: Bland and Altman, Lancet 327 (1986) 307.
 */
export function agreement(
  reference: readonly number[],
  device: readonly number[],
  referenceU: number,
): AgreementResult {
  const n = reference.length;
  if (device.length !== n)
    throw new RangeError(
      `Readings must come in pairs; received ${n} reference and ${device.length} gadget readings.`,
    );
  if (n < 3) throw new RangeError(`At least 3 pairs are needed; received ${n}. Add more pairs.`);
  if (![...reference, ...device].every(Number.isFinite))
    throw new RangeError('All readings must be numbers. Exclude pairs with an invalid reading.');
  const differences = device.map((v, i) => v - reference[i]!);
  const means = device.map((v, i) => (v + reference[i]!) / 2);
  const bias = mean(differences);
  const sd = sampleSd(differences);
  const t = studentTQuantile(0.975, n - 1);
  const half = (t * sd) / Math.sqrt(n);
  return {
    bias,
    sd,
    limits: [bias - 1.96 * sd, bias + 1.96 * sd],
    // Variance of a limit: sd^2 (1/n + 1.96^2 / (2 (n - 1))).
    limitHalfWidth95: Math.hypot(t * sd * Math.sqrt(1 / n + 1.96 ** 2 / (2 * (n - 1))), 1.96 * referenceU),
    biasInterval95: [bias - half, bias + half],
    biasHalfWidth95: Math.hypot(half, 1.96 * referenceU),
    p: studentTwoSided(bias / (sd / Math.sqrt(n)), n - 1),
    trend: trendOf(means, differences),
    points: means.map((m, i) => ({ mean: m, difference: differences[i]! })),
  };
}

function trendOf(x: readonly number[], y: readonly number[]): { slope: number; p: number } {
  const [mx, my] = [mean(x), mean(y)];
  const sxx = x.reduce((s, v) => s + (v - mx) ** 2, 0);
  const sxy = x.reduce((s, v, i) => s + (v - mx) * (y[i]! - my), 0);
  const syy = y.reduce((s, v) => s + (v - my) ** 2, 0);
  const slope = sxy / sxx;
  const df = x.length - 2;
  const error = Math.sqrt(Math.max(0, syy - slope * sxy) / df / sxx);
  return { slope, p: studentTwoSided(slope / error, df) };
}
