import type { RowIssue } from '@lucky-needle/core/model';

/** Steps from which the usual one is told. */
const STEPS = 20_001;
/** A step this much longer than the usual one has something missing in it. */
const GAP = 2.5;
const MOST_GAPS = 50;

/**
 * The pace of readings in a file: by their middle step, since one pause would change their number over their time to
 * nothing that they ever had. Steps that are much longer are gaps.
 */
export function importPace() {
  const steps: number[] = [];
  // The longest steps with where they are, for the gaps: which ones are is known once the usual step is.
  let longest: { row: number; stepS: number; beforeS: number }[] = [];
  let row = 0;
  let last = Number.NaN;
  const usual = () => steps.toSorted((a, b) => a - b)[steps.length >> 1];
  return {
    take(times: Float64Array, count: number): void {
      for (let i = 0; i < count; i++, row++) {
        const step = times[i]! - last;
        last = times[i]!;
        if (!(step > 0)) continue;
        if (steps.length < STEPS) steps.push(step);
        if (longest.length < 4 * MOST_GAPS || step > longest[0]!.stepS) {
          longest.push({ row, stepS: step, beforeS: last });
          if (longest.length > 8 * MOST_GAPS)
            longest = longest.toSorted((a, b) => a.stepS - b.stepS).slice(-4 * MOST_GAPS);
        }
      }
    },
    /** Readings a second; null where there are too few to tell. */
    rateHz(): number | null {
      const step = usual();
      return step === undefined ? null : Number((1 / step).toPrecision(9));
    },
    /** The longest gaps, in the order of the file. */
    gaps(): RowIssue[] {
      const step = usual() ?? Infinity;
      return longest
        .filter((l) => l.stepS > GAP * step)
        .toSorted((a, b) => b.stepS - a.stepS)
        .slice(0, MOST_GAPS)
        .toSorted((a, b) => a.row - b.row)
        .map((l) => ({
          code: 'gap',
          row: l.row,
          text: `No readings for ${l.stepS.toPrecision(3)} s before ${l.beforeS.toFixed(1)} s.`,
        }));
    },
  };
}
