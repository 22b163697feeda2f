import { autocovariance, together } from './autocovariance.ts';
import { normalQuantile, studentTQuantile } from './quantiles.ts';

/** Arithmetic mean of the finite-length array; NaN when empty. Two passes: the second removes the rounding of the first. */
export function mean(values: ArrayLike<number>): number {
  const n = values.length;
  if (n === 0) return Number.NaN;
  let sum = 0;
  for (let i = 0; i < n; i++) sum += values[i]!;
  const first = sum / n;
  let correction = 0;
  for (let i = 0; i < n; i++) correction += values[i]! - first;
  return first + correction / n;
}

/** The middle value, or the mean of the two middle ones; 0 of none. */
export function median(values: ArrayLike<number>): number {
  const sorted = Float64Array.from(values).sort();
  const half = sorted.length >> 1;
  return sorted.length === 0
    ? 0
    : sorted.length % 2 === 1
      ? sorted[half]!
      : (sorted[half - 1]! + sorted[half]!) / 2;
}

/** Sample standard deviation with n - 1; NaN under two values. */
export function sampleSd(values: ArrayLike<number>): number {
  const n = values.length;
  if (n < 2) return Number.NaN;
  const centre = mean(values);
  let sum = 0;
  for (let i = 0; i < n; i++) sum += (values[i]! - centre) ** 2;
  return Math.sqrt(sum / (n - 1));
}

/** How alike neighbours of a series are, 0 to 1: its autocorrelation at a lag of one, none where they tend to differ. */
export function serialCorrelation(values: ArrayLike<number>): number {
  const n = values.length;
  const centre = mean(values);
  let variance = 0;
  let covariance = 0;
  for (let i = 0; i < n; i++) {
    const d = values[i]! - centre;
    variance += d * d;
    if (i > 0) covariance += d * (values[i - 1]! - centre);
  }
  return variance > 0 ? Math.max(0, covariance / variance) : 0;
}

/** Means of so many stretches still show noise that is slow against the readings; more of them drown it in fast noise. */
const STRETCHES = 50;

/**
 * How many independent readings a correlated series is worth for its mean, between 1 and n: its variance over that of the
 * mean, from the summed autocorrelations of the means of up to 50 stretches, so that slow noise under fast noise is seen.
 * What the mean takes off the autocorrelations is put back, and the count is lowered by how little is known of it, so that
 * twice the standard deviation over its root holds the true mean in about 95 of 100 cases.
 * Sources: JCGM 100:2008, 4.2.7; Geyer, Statistical Science 7 (1992) 473 (initial monotone sequence).
 */
export function effectiveCount(values: ArrayLike<number>): number {
  const n = values.length;
  if (n < 3) return n;
  const variance = sampleSd(values) ** 2;
  if (variance === 0) return n;
  const means = n > STRETCHES ? meansOfStretches(values, STRETCHES) : values;
  const ofMean = varianceOfMean(means);
  return ofMean > 0 ? Math.min(n, Math.max(1, variance / ofMean)) : n;
}

function meansOfStretches(values: ArrayLike<number>, stretches: number): Float64Array {
  const n = values.length;
  return Float64Array.from({ length: stretches }, (_, k) => {
    const [from, to] = [Math.floor((k * n) / stretches), Math.floor(((k + 1) * n) / stretches)];
    let sum = 0;
    for (let i = from; i < to; i++) sum += values[i]!;
    return sum / (to - from);
  });
}

/** Variance of the mean of a correlated series, widened by Student's t for how few independent readings tell it. */
function varianceOfMean(x: ArrayLike<number>): number {
  const n = x.length;
  const centre = mean(x);
  const { ofMean, lags } = together(autocovariance(Float64Array.from(x, (v) => v - centre)));
  return ofMean * (studentTQuantile(0.975, Math.max(1, n / Math.max(1, lags))) / normalQuantile(0.975)) ** 2;
}
