import { mean, seededRandom, studentTQuantile } from '../numerics/index.ts';

export interface ChangePoint {
  /** Results before it. */
  readonly at: number;
  /** Mean after it less that before, with its half-width at 95 %. */
  readonly by: number;
  readonly half95: number;
}

/** Results on either side at the least. */
const LEAST = 4;
const SHUFFLES = 999;
/** Of more the newest count. */
const MOST = 1000;

/**
 * Where results changed once from one level to another, more than scatter explains: the split of the largest Welch statistic,
 * told only where fewer than one in twenty shuffles of the same results have one as large (a permutation test of the largest, so
 * that having looked everywhere is paid for). Deterministic.
 * @param results in the order of time, with what was tried: what labels explain is taken out first
 * @returns null where nothing changed, where a straight line over time fits better, and of fewer than eight
 */
export function changePoint(
  results: readonly { readonly label: string; readonly value: number }[],
): ChangePoint | null {
  const cut = Math.max(0, results.length - MOST);
  const newest = results.slice(cut);
  if (newest.length < 2 * LEAST) return null;
  const values = withoutLabels(newest);
  const split = largestSplit(values);
  if (split.t === 0) return null;
  const { at, by, half95, squares } = changeAt(values, split.at);
  if (squaresOfLine(values) <= squares) return null;
  const random = seededRandom(values.length);
  const shuffled = [...values];
  let asLarge = 0;
  for (let k = 0; k < SHUFFLES; k++) {
    for (let i = shuffled.length - 1; i > 0; i--) {
      const j = Math.floor(random.uniform() * (i + 1));
      [shuffled[i], shuffled[j]] = [shuffled[j]!, shuffled[i]!];
    }
    if (largestSplit(shuffled).t >= split.t) asLarge++;
  }
  if ((asLarge + 1) / (SHUFFLES + 1) >= 0.05) return null;
  return { at: cut + at, by, half95 };
}

/** Each result less the mean of its own label, and the mean of all. */
function withoutLabels(results: readonly { readonly label: string; readonly value: number }[]): number[] {
  const all = mean(results.map((r) => r.value));
  const labels = [...new Set(results.map((r) => r.label))];
  const means = new Map(
    labels.map((label) => [label, mean(results.filter((r) => r.label === label).map((r) => r.value))]),
  );
  return results.map(({ label, value }) => value - means.get(label)! + all);
}

interface Split {
  readonly at: number;
  /** Difference over its standard error. */
  readonly t: number;
}

function largestSplit(values: readonly number[]): Split {
  const n = values.length;
  // About a middle, so that sums of squares keep their digits.
  const middle = mean(values);
  let [all, allSquares, sum, squares] = [0, 0, 0, 0];
  for (const value of values) {
    all += value - middle;
    allSquares += (value - middle) ** 2;
  }
  let [at, t] = [0, 0];
  for (let k = 1; k <= n - LEAST; k++) {
    const v = values[k - 1]! - middle;
    sum += v;
    squares += v * v;
    if (k < LEAST) continue;
    const m = n - k;
    const before = Math.max(0, squares - (sum * sum) / k) / (k - 1) / k;
    const after = Math.max(0, allSquares - squares - (all - sum) ** 2 / m) / (m - 1) / m;
    const error = Math.sqrt(before + after);
    const here = error > 0 ? Math.abs((all - sum) / m - sum / k) / error : 0;
    if (here > t) [at, t] = [k, here];
  }
  return { at, t };
}

/** The change at a split, by Welch; what is left over on both sides. */
function changeAt(values: readonly number[], at: number): ChangePoint & { readonly squares: number } {
  const sides = [values.slice(0, at), values.slice(at)].map((side) => {
    const level = mean(side);
    const squares = side.reduce((s, v) => s + (v - level) ** 2, 0);
    return { level, squares, freedom: side.length - 1, u2: squares / (side.length - 1) / side.length };
  }) as [Side, Side];
  const [a, b] = sides;
  const u2 = a.u2 + b.u2;
  const freedom = u2 ** 2 / (a.u2 ** 2 / a.freedom + b.u2 ** 2 / b.freedom);
  return {
    at,
    by: b.level - a.level,
    half95: studentTQuantile(0.975, Math.max(1, freedom)) * Math.sqrt(u2),
    squares: a.squares + b.squares,
  };
}

interface Side {
  readonly level: number;
  readonly squares: number;
  readonly freedom: number;
  readonly u2: number;
}

/** What a straight line over the order leaves over. */
function squaresOfLine(values: readonly number[]): number {
  const [x, y] = [(values.length - 1) / 2, mean(values)];
  const width = values.reduce((s, _, i) => s + (i - x) ** 2, 0);
  const slope = values.reduce((s, v, i) => s + (i - x) * (v - y), 0) / width;
  return values.reduce((s, v, i) => s + (v - y - slope * (i - x)) ** 2, 0);
}
