import { effectiveCount, mean, studentTQuantile } from '../numerics/index.ts';

export interface Slope {
  readonly slope: number;
  /** Standard error, by what the line leaves; what hangs together counts as fewer readings. */
  readonly u: number;
  /** The line at the last reading. */
  readonly last: number;
  /** Standard error of the line at some time, as far as the readings tell. */
  uAt(t: number): number;
}

/** Straight line through points; null with fewer than three. */
export function slopeOf(t: readonly number[], x: readonly number[]): Slope | null {
  const n = t.length;
  if (n < 3) return null;
  const [mt, mx] = [mean(t), mean(x)];
  let [sxx, sxy] = [0, 0];
  for (let i = 0; i < n; i++) {
    sxx += (t[i]! - mt) ** 2;
    sxy += (t[i]! - mt) * (x[i]! - mx);
  }
  if (!(sxx > 0)) return null;
  const slope = sxy / sxx;
  const left = x.map((v, i) => v - mx - slope * (t[i]! - mt));
  const variance = left.reduce((sum, d) => sum + d * d, 0) / (n - 2);
  const count = countOf(left);
  // Widened so that twice it holds 95 % with few readings as well.
  const few = studentTQuantile(0.975, Math.max(1, count - 2)) / 1.96;
  const u = few * Math.sqrt((variance / sxx) * (n / count));
  return {
    slope,
    u,
    last: mx + slope * (t[n - 1]! - mt),
    uAt: (at) => Math.hypot(few * Math.sqrt(variance / count), u * (at - mt)),
  };
}

/** Readings that count among those that a line was taken from: it takes some of what they have in common with it. */
function countOf(left: readonly number[]): number {
  const n = left.length;
  const share = effectiveCount(left) / n;
  const common = (1 - share) / (1 + share);
  // Kendall's bias of a serial correlation, once for the mean and once more for the slope.
  const mended = Math.min(0.99, common + (2 + 4 * common) / n);
  return Math.max(1, (n * (1 - mended)) / (1 + mended));
}
