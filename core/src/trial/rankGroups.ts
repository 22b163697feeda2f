import { mean, sampleSd, studentTQuantile } from '../numerics/index.ts';
import { beforeAfter, runsNeeded } from '../prove/index.ts';

export interface Tried {
  readonly label: string;
  readonly value: number;
}

export interface Group {
  readonly label: string;
  readonly n: number;
  readonly mean: number;
  /** NaN for a single one. */
  readonly sd: number;
  /** Half-width at 95 % of the mean, by Student's t; NaN for a single one, and where all are alike: what they scatter by is not seen. */
  readonly half95: number;
  readonly median: number;
  readonly best: number;
}

export interface Ranking {
  /** Best mean first. */
  readonly groups: readonly Group[];
  /** The first against the second; null with fewer than two that could be compared. */
  readonly lead: {
    /** How much the first is better, in the figure's unit: never below 0. */
    readonly by: number;
    readonly half95: number;
    readonly isShown: boolean;
    /** Why it could not be told; null when it could. */
    readonly refused: string | null;
    /** Tries each that would likely settle it; null where it is settled, or none would. */
    readonly needed: number | null;
  } | null;
}

/**
 * Groups of trials by what was tried, with intervals, and whether the first is really better than the second: by unequal
 * variances (Welch, Biometrika 34 (1947) 28).
 * @param tried finite values of the trials that count @param more whether more is better
 */
export function rankGroups(tried: readonly Tried[], more: boolean): Ranking {
  const sign = more ? -1 : 1;
  const labels = [...new Set(tried.map((t) => t.label))];
  const groups = labels
    .map((label) => groupOf(label, valuesOf(tried, label), more))
    .toSorted((a, b) => sign * (a.mean - b.mean));
  const [first, second] = groups;
  if (!first || !second || first.n < 2 || second.n < 2) return { groups, lead: null };
  const [best, next] = [valuesOf(tried, first.label), valuesOf(tried, second.label)];
  const compared = beforeAfter(next, best);
  const by = Math.abs(compared.difference);
  const [low, high] = compared.interval95;
  const [sdBest, sdNext] = [sampleSd(best), sampleSd(next)];
  const isOpen = !compared.shown && compared.refused === null && by > 0 && sdBest + sdNext > 0;
  return {
    groups,
    lead: {
      by,
      half95: (high - low) / 2,
      isShown: compared.shown,
      refused: compared.refused,
      needed: isOpen ? runsNeeded(by, sdNext, sdBest) : null,
    },
  };
}

const valuesOf = (tried: readonly Tried[], label: string) =>
  tried.filter((t) => t.label === label).map((t) => t.value);

function groupOf(label: string, values: readonly number[], more: boolean): Group {
  const sorted = values.toSorted((a, b) => a - b);
  const n = sorted.length;
  const sd = n > 1 ? sampleSd(sorted) : Number.NaN;
  return {
    label,
    n,
    mean: mean(sorted),
    sd,
    half95: sd > 0 ? (studentTQuantile(0.975, n - 1) * sd) / Math.sqrt(n) : Number.NaN,
    median: (sorted[Math.floor((n - 1) / 2)]! + sorted[Math.ceil((n - 1) / 2)]!) / 2,
    best: more ? sorted[n - 1]! : sorted[0]!,
  };
}
