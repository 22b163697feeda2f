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

/** Sample standard deviation with n - 1; NaN under two values. */
export function sampleSd(values: ArrayLike<number>): number {
  const n = values.length;
  if (n < 2) return Number.NaN;
  const centre = mean(values);
  let sum = 0;
  for (let i = 0; i < n; i++) sum += (values[i]! - centre) ** 2;
  return Math.sqrt(sum / (n - 1));
}

/**
 * How many independent readings a correlated series is worth: n (1 - r) / (1 + r) with r the lag-one autocorrelation
 * (first-order autoregressive model; JCGM 100:2008 4.2.7 asks for such a correction). Between 1 and n.
 */
export function effectiveCount(values: ArrayLike<number>): number {
  const n = values.length;
  if (n < 3) return n;
  const centre = mean(values);
  let variance = 0;
  let covariance = 0;
  for (let i = 0; i < n; i++) {
    const d = values[i]! - centre;
    variance += d * d;
    if (i > 0) covariance += d * (values[i - 1]! - centre);
  }
  if (variance === 0) return n;
  const r = Math.max(0, covariance / variance);
  return Math.min(n, Math.max(1, (n * (1 - r)) / (1 + r)));
}
