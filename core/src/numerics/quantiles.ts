import { incompleteBeta, incompleteGamma } from './specialFunctions.ts';

/**
 * Quantiles by bisection on the cumulative distribution in a variable where it is well scaled. Slower than a rational
 * approximation, but right to about 1e-13 for any degrees of freedom, and no caller asks for more than a few hundred.
 */
function invertCdf(cdf: (x: number) => number, p: number): number {
  let low = 0;
  let high = 1;
  while (cdf(high) < p && high < 1e300) high *= 2;
  for (let i = 0; i < 1100; i++) {
    const middle = (low + high) / 2;
    if (middle === low || middle === high) break;
    if (cdf(middle) < p) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

function requireProbability(p: number): void {
  if (!(p > 0 && p < 1)) {
    throw new RangeError(`Enter a probability above 0 and below 1; received ${p}.`);
  }
}

function requireDegreesOfFreedom(df: number): void {
  if (!(df > 0)) throw new RangeError(`Degrees of freedom must be above 0; received ${df}.`);
}

/** Upper half of a symmetric distribution, mirrored: far tails keep their relative precision. */
function symmetricQuantile(upperTail: (x: number) => number, p: number): number {
  if (p === 0.5) return 0;
  const tail = Math.min(p, 1 - p);
  const x = invertCdf((v) => -upperTail(v), -tail);
  return p < 0.5 ? -x : x;
}

/**
 * Student's t quantile.
 * @param p probability, 0..1
 * @param df degrees of freedom, above 0; Infinity gives the normal distribution
 * @throws {RangeError} outside those ranges
 */
export function studentTQuantile(p: number, df: number): number {
  requireProbability(p);
  requireDegreesOfFreedom(df);
  if (df > 1e9) return normalQuantile(p);
  return symmetricQuantile((t) => 0.5 * incompleteBeta(df / (df + t * t), df / 2, 0.5), p);
}

/** Standard normal quantile; through the chi-square tail with one degree of freedom. */
export function normalQuantile(p: number): number {
  requireProbability(p);
  return symmetricQuantile((z) => 0.5 * (1 - incompleteGamma(0.5, (z * z) / 2)), p);
}

/** Chi-square quantile with `df` degrees of freedom. */
export function chiSquareQuantile(p: number, df: number): number {
  requireProbability(p);
  requireDegreesOfFreedom(df);
  return invertCdf((x) => incompleteGamma(df / 2, x / 2), p);
}

/** Quantile of Fisher's F with `df1` (numerator) and `df2` degrees of freedom. */
export function fQuantile(p: number, df1: number, df2: number): number {
  requireProbability(p);
  requireDegreesOfFreedom(df1);
  requireDegreesOfFreedom(df2);
  return invertCdf((f) => incompleteBeta((df1 * f) / (df1 * f + df2), df1 / 2, df2 / 2), p);
}
