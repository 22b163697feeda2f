const RAD = Math.PI / 180;

/**
 * Mean direction and circular standard deviation of angles in degrees. NaN where they cancel (mean length under 1e-6).
 * Source: Mardia and Jupp, Directional Statistics, 2.2 and 2.3.
 */
export function circularMeanOf(degrees: readonly number[]): { readonly mean: number; readonly sd: number } {
  let [c, s] = [0, 0];
  for (const d of degrees) {
    c += Math.cos(d * RAD);
    s += Math.sin(d * RAD);
  }
  const length = Math.hypot(c, s) / degrees.length;
  if (!(length >= 1e-6)) return { mean: Number.NaN, sd: Number.NaN };
  const mean = (Math.atan2(s, c) / RAD + 360) % 360;
  return { mean, sd: Math.sqrt(Math.max(0, -2 * Math.log(Math.min(1, length)))) / RAD };
}
