/** Mean of courses in degrees, right through north, with their scatter; null without good ones. */
export function circularMean(degrees: ArrayLike<number>): { mean: number; sd: number; n: number } | null {
  let [x, y, n] = [0, 0, 0];
  for (let i = 0; i < degrees.length; i++) {
    const rad = (degrees[i]! * Math.PI) / 180;
    if (!Number.isFinite(rad)) continue;
    x += Math.cos(rad);
    y += Math.sin(rad);
    n++;
  }
  if (n === 0) return null;
  const length = Math.min(1, Math.hypot(x, y) / n);
  const mean = ((Math.atan2(y, x) * 180) / Math.PI + 360) % 360;
  // Circular standard deviation (Mardia and Jupp, Directional Statistics, 2.3.10).
  return { mean, sd: (Math.sqrt(-2 * Math.log(Math.max(length, 1e-12))) * 180) / Math.PI, n };
}
