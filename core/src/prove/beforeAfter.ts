import {
  mean,
  normalCdf,
  normalQuantile,
  sampleSd,
  studentTQuantile,
  studentTwoSided,
} from '../numerics/index.ts';

export interface BeforeAfter {
  /** After less before. */
  readonly difference: number;
  readonly degreesOfFreedom: number;
  readonly interval95: readonly [number, number];
  /** Welch's unequal-variance t test. */
  readonly p: number;
  /** Exact two-sided rank-sum test; by the normal approximation when values are tied. */
  readonly rankP: number;
  readonly shown: boolean;
  /** Why results of such whole steps cannot be told apart by their scatter; null where they can. */
  readonly refused: string | null;
}

/**
 * Is it better than before, or is it scatter? Results that lie on one or two steps of a display hide their scatter, so that
 * nothing follows from them: then neither interval nor p is given.
 * @param before n1 results @param after n2 results, at least two each
 * @throws {RangeError} with fewer than two results on either side
 * Sources: Welch, Biometrika 34 (1947) 28; Mann and Whitney, Ann. Math. Stat. 18 (1947) 50.
 */
export function beforeAfter(before: readonly number[], after: readonly number[]): BeforeAfter {
  if (before.length < 2 || after.length < 2)
    throw new RangeError(
      `At least two runs before and two after are needed; received ${before.length} and ${after.length}. Record more runs.`,
    );
  if (![...before, ...after].every(Number.isFinite))
    throw new RangeError('All results must be numbers. Exclude runs without a result.');
  const [v1, v2] = [sampleSd(before) ** 2 / before.length, sampleSd(after) ** 2 / after.length];
  const difference = mean(after) - mean(before);
  const error = Math.sqrt(v1 + v2);
  const refused = hiddenByStep(before, after);
  if (refused !== null)
    return {
      difference,
      degreesOfFreedom: Number.NaN,
      interval95: [Number.NaN, Number.NaN],
      p: Number.NaN,
      rankP: Number.NaN,
      shown: false,
      refused,
    };
  const df = (v1 + v2) ** 2 / (v1 ** 2 / (before.length - 1) + v2 ** 2 / (after.length - 1));
  const half = studentTQuantile(0.975, df) * error;
  return {
    difference,
    degreesOfFreedom: df,
    interval95: [difference - half, difference + half],
    p: studentTwoSided(difference / error, df),
    rankP: rankSum(before, after),
    shown: Math.abs(difference) > half,
    refused: null,
  };
}

/**
 * Whole steps hide the scatter where one side has no two results that differ, or neither spreads over more than a step:
 * what lies between the steps is then not known.
 */
function hiddenByStep(before: readonly number[], after: readonly number[]): string | null {
  const alike = [before, after].find((side) => new Set(side).size === 1);
  if (alike)
    return `All ${alike.length} results ${alike === before ? 'before' : 'after'} are ${alike[0]}: the display resolution hides their scatter.`;
  const sorted = [...new Set([...before, ...after])].sort((a, b) => a - b);
  const step = Math.min(...sorted.slice(1).map((v, i) => v - sorted[i]!));
  const isWhole = sorted.every((v) => {
    const steps = (v - sorted[0]!) / step;
    return Math.abs(steps - Math.round(steps)) < 1e-6 * Math.max(1, steps);
  });
  const spread = (side: readonly number[]) => (Math.max(...side) - Math.min(...side)) / step;
  // Three values or more on both sides of a grid tell their scatter well enough; two neighbours do not.
  return isWhole && sorted.length > 2 && spread(before) < 1.5 && spread(after) < 1.5
    ? `On each side the results fall on two neighbouring steps of ${Number(step.toPrecision(3))}: a finer resolution is needed.`
    : null;
}

function rankSum(a: readonly number[], b: readonly number[]): number {
  let u = 0;
  for (const x of a) for (const y of b) u += x > y ? 1 : x === y ? 0.5 : 0;
  const [n, m] = [a.length, b.length];
  const extreme = Math.max(u, n * m - u);
  const all = [...a, ...b];
  const tied = new Set(all).size < all.length;
  if (!tied && n * m <= 2500) return Math.min(1, 2 * upperTail(n, m, extreme));
  const counts = new Map<number, number>();
  for (const v of all) counts.set(v, (counts.get(v) ?? 0) + 1);
  const ties = [...counts.values()].reduce((s, t) => s + t ** 3 - t, 0);
  const N = n + m;
  const variance = ((n * m) / 12) * (N + 1 - ties / (N * (N - 1)));
  if (!(variance > 0)) return 1;
  return Math.min(1, 2 * (1 - normalCdf((extreme - (n * m) / 2 - 0.5) / Math.sqrt(variance))));
}

/** P(U >= u) when nothing changed: ways to rank, counted by adding one value after the other. */
function upperTail(n: number, m: number, u: number): number {
  let ways: Float64Array[] = Array.from({ length: n + 1 }, (_, i) =>
    i === 0 ? Float64Array.of(1) : new Float64Array(0),
  );
  // ways[i][s]: arrangements of i of the first kind among the values so far with sum s.
  for (let k = 1; k <= n + m; k++) {
    ways = ways.map((row, i) => {
      const with1 = i > 0 ? ways[i - 1]! : new Float64Array(0);
      // The k-th value, if of the first kind, beats those of the second kind below it: k - 1 - (i - 1).
      const shift = k - i;
      if (i > k || k - i > m) return new Float64Array(0);
      const size = Math.max(row.length, with1.length > 0 ? with1.length + shift : 0);
      const next = new Float64Array(size);
      row.forEach((v, s) => (next[s]! += v));
      with1.forEach((v, s) => (next[s + shift]! += v));
      return next;
    });
  }
  const final = ways[n]!;
  const total = final.reduce((s, v) => s + v, 0);
  return final.reduce((s, v, i) => (i >= u ? s + v : s), 0) / total;
}

/**
 * Runs needed on each side to see a change of this size with so much power at 95 %: the normal formula with Guenther's
 * small-sample addition of z^2 / 4.
 * @param power chance to see it, 0.8 is usual
 */
export function runsNeeded(change: number, sdBefore: number, sdAfter: number, power = 0.8): number {
  if (!(Math.abs(change) > 0)) throw new RangeError(`Enter a change other than 0; received ${change}.`);
  if (!(power > 0.5 && power < 1))
    throw new RangeError(`Enter a power between 0.5 and 1; received ${power}.`);
  const z = normalQuantile(0.975);
  const n = ((z + normalQuantile(power)) ** 2 * (sdBefore ** 2 + sdAfter ** 2)) / change ** 2;
  return Math.max(2, Math.ceil(n + z ** 2 / 4));
}
