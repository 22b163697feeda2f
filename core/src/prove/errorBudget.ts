import { effectiveDegreesOfFreedom, studentTQuantile } from '../numerics/index.ts';

/** Divisors that turn a half-width into a standard uncertainty (JCGM 100:2008, 4.3). */
export const DIVISORS = {
  normal: 1,
  'normal, k = 2': 2,
  rectangular: Math.sqrt(3),
  triangular: Math.sqrt(6),
  'u-shaped': Math.SQRT2,
} as const;
export type Distribution = keyof typeof DIVISORS;

export interface BudgetLine {
  readonly title: string;
  /** Half-width, or standard deviation for "normal", in its own unit; NaN where nobody stated or measured it. */
  readonly halfWidth: number;
  readonly unit: string;
  readonly distribution: Distribution;
  /** Change of the reading for a change of one unit. */
  readonly sensitivity: number;
  /** Degrees of freedom; Infinity when taken from a data sheet. */
  readonly degreesOfFreedom: number;
  readonly source: string;
}

export interface BudgetResult {
  /** Lines whose size is not known: what stands below is the least that it can be. */
  readonly unknown: readonly string[];
  /** Standard uncertainty each line gives to the reading; NaN where its size is not known. */
  readonly contributions: number[];
  /** Share of the variance, 0 to 1. */
  readonly shares: number[];
  readonly combined: number;
  readonly effectiveDegreesOfFreedom: number;
  readonly coverageFactor: number;
  /** Expanded uncertainty at 95 %. */
  readonly expanded: number;
}

/** Two lines that go up and down together. */
export interface Correlation {
  readonly first: number;
  readonly second: number;
  /** Correlation coefficient, -1 to 1. */
  readonly r: number;
}

/**
 * Combines lines to one expanded uncertainty at 95 %, with effective degrees of freedom by
 * Welch-Satterthwaite (JCGM 100:2008, 5.1.2, G.4.1) and Student's t as coverage factor.
 * Lines are independent but for those that are said to go together (5.2.2); shares are those of each by itself.
 * Lines whose size is not known are left out of it and named.
 * @throws {RangeError} for a negative or an infinite half-width, or a correlation beyond -1 to 1
 */
export function combineBudget(
  lines: readonly BudgetLine[],
  together: readonly Correlation[] = [],
): BudgetResult {
  const contributions = lines.map((line) => {
    if (Number.isNaN(line.halfWidth)) return Number.NaN;
    if (!(line.halfWidth >= 0) || !Number.isFinite(line.halfWidth * line.sensitivity)) {
      throw new RangeError(
        `Uncertainty budget, ${line.title}: enter a half-width of 0 or more; received ${line.halfWidth} ${line.unit}.`,
      );
    }
    return Math.abs((line.halfWidth / DIVISORS[line.distribution]) * line.sensitivity);
  });
  const known = contributions.map((u) => (Number.isNaN(u) ? 0 : u));
  const alone = known.reduce((s, u) => s + u * u, 0);
  const common = together.reduce((s, { first, second, r }) => {
    if (!(Math.abs(r) <= 1))
      throw new RangeError(`Uncertainty budget: enter a correlation from −1 to 1; received ${r}.`);
    const sign = Math.sign(lines[first]!.sensitivity * lines[second]!.sensitivity);
    return s + 2 * r * sign * known[first]! * known[second]!;
  }, 0);
  const variance = Math.max(0, alone + common);
  const combined = Math.sqrt(variance);
  const effective = effectiveDegreesOfFreedom(
    variance,
    known.map((u, i) => ({ u, degreesOfFreedom: lines[i]!.degreesOfFreedom })),
  );
  const coverageFactor = studentTQuantile(0.975, Math.max(1, effective));
  return {
    unknown: lines.filter((line) => Number.isNaN(line.halfWidth)).map((line) => line.title),
    contributions,
    shares: known.map((u) => (alone > 0 ? u ** 2 / alone : 0)),
    combined,
    effectiveDegreesOfFreedom: effective,
    coverageFactor,
    expanded: coverageFactor * combined,
  };
}
