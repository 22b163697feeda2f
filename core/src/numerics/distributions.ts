import { incompleteBeta, incompleteGamma } from './specialFunctions.ts';

/** P(Z <= z) for the standard normal, to about 1e-15. */
export function normalCdf(z: number): number {
  const tail = 0.5 * (1 - incompleteGamma(0.5, (z * z) / 2));
  return z < 0 ? tail : 1 - tail;
}

/** Two-sided p-value of Student's t. @param df degrees of freedom, above 0 */
export function studentTwoSided(t: number, df: number): number {
  return Number.isFinite(t) ? incompleteBeta(df / (df + t * t), df / 2, 0.5) : 0;
}

/** P(T <= t) for Student's t. */
export function studentTCdf(t: number, df: number): number {
  const tail = studentTwoSided(t, df) / 2;
  return t < 0 ? tail : 1 - tail;
}

/** P(X <= x) for chi-square with df degrees of freedom. */
export function chiSquareCdf(x: number, df: number): number {
  return incompleteGamma(df / 2, x / 2);
}

/** P(F > f) for Fisher's F: the p-value of a variance ratio. */
export function fUpperTail(f: number, df1: number, df2: number): number {
  return f <= 0 ? 1 : incompleteBeta(df2 / (df2 + df1 * f), df2 / 2, df1 / 2);
}
