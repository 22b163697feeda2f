/** Slope of the straight line through points, and its standard error by what it leaves; null with fewer than three. */
export function slopeOf(
  t: readonly number[],
  x: readonly number[],
): { readonly slope: number; readonly u: number; readonly last: number } | null {
  const n = t.length;
  if (n < 3) return null;
  const mt = t.reduce((a, b) => a + b, 0) / n;
  const mx = x.reduce((a, b) => a + b, 0) / n;
  let [sxx, sxy, syy] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    sxx += (t[i]! - mt) ** 2;
    sxy += (t[i]! - mt) * (x[i]! - mx);
    syy += (x[i]! - mx) ** 2;
  }
  if (!(sxx > 0)) return null;
  const slope = sxy / sxx;
  const left = Math.max(0, syy - slope * sxy) / (n - 2);
  return { slope, u: Math.sqrt(left / sxx), last: mx + slope * (t[n - 1]! - mt) };
}
