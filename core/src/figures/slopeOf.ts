import { serialCorrelation, studentTQuantile } from '../numerics/index.ts';

export interface Slope {
  readonly slope: number;
  /** Standard error, by what the line leaves; what hangs together counts as fewer readings. */
  readonly u: number;
  /** The line at the last reading. */
  readonly last: number;
  /** Standard error of the line at some time, as far as the readings tell. */
  uAt(t: number): number;
}

/**
 * Straight line through points; null with fewer than three.
 * @param weights inverse variances up to a factor; all alike when not given
 */
export function slopeOf(
  t: readonly number[],
  x: readonly number[],
  weights: readonly number[] = t.map(() => 1),
): Slope | null {
  const n = t.length;
  if (n < 3) return null;
  const total = weights.reduce((a, b) => a + b, 0);
  const of = (values: readonly number[]) => values.reduce((sum, v, i) => sum + weights[i]! * v, 0) / total;
  const [mt, mx] = [of(t), of(x)];
  const sxx = total * of(t.map((v) => (v - mt) ** 2));
  if (!(sxx > 0)) return null;
  const slope = (total * of(t.map((v, i) => (v - mt) * (x[i]! - mx)))) / sxx;
  const left = x.map((v, i) => Math.sqrt(weights[i]!) * (v - mx - slope * (t[i]! - mt)));
  const variance = left.reduce((sum, d) => sum + d * d, 0) / (n - 2);
  const count = countOf(left);
  // Widened so that twice it holds 95 % with few readings as well.
  const few = studentTQuantile(0.975, Math.max(1, count - 2)) / 1.96;
  const widened = few * Math.sqrt(variance * (n / count));
  const u = widened / Math.sqrt(sxx);
  return {
    slope,
    u,
    last: mx + slope * (t[n - 1]! - mt),
    uAt: (at) => Math.hypot(widened / Math.sqrt(total), u * (at - mt)),
  };
}

/** Readings that count among those that a line was taken from: it takes some of what they have in common with it. */
function countOf(left: readonly number[]): number {
  const n = left.length;
  const common = serialCorrelation(left);
  if (common === 0) return n;
  // Kendall's bias of a serial correlation, once for the mean and once more for the slope, and half its own deviation.
  const mended = common + (2 + 4 * common) / n + 0.5 * Math.sqrt((1 - common ** 2) / n);
  const held = Math.min(0.99, mended);
  return Math.max(1, (n * (1 - held)) / (1 + held));
}
