import type { Check, Candidate, FitState } from './verdict.ts';

export interface ComparedCheck {
  readonly check: Check;
  readonly title: string;
  readonly cells: readonly {
    readonly sentence: string;
    readonly state: FitState;
    readonly best: boolean;
  }[];
  /** Whether the parts differ here. */
  readonly differs: boolean;
}

/**
 * Two or three candidates side by side, check by check, the best of each marked where they differ: by state, then by margin.
 * @throws {RangeError} for fewer than two
 */
export function compareCandidates(candidates: readonly Candidate[]): ComparedCheck[] {
  if (candidates.length < 2)
    throw new RangeError(`A comparison needs two parts or more; received ${candidates.length}.`);
  const order = { pass: 2, tight: 1, fail: 0 } as const;
  return candidates[0]!.verdicts.map(({ check, title }) => {
    const cells = candidates.map(
      (c) =>
        c.verdicts.find((v) => v.check === check && v.title === title) ??
        c.verdicts.find((v) => v.check === check)!,
    );
    const top = Math.max(...cells.map((c) => order[c.state]));
    const leaders = cells.filter((c) => order[c.state] === top);
    const margin = Math.max(...leaders.map((c) => c.margin).filter(Number.isFinite), -Infinity);
    const differs = new Set(cells.map((c) => c.sentence)).size > 1;
    return {
      check,
      title,
      differs,
      cells: cells.map((c) => ({
        sentence: c.sentence,
        state: c.state,
        best: differs && order[c.state] === top && (!Number.isFinite(margin) || c.margin === margin),
      })),
    };
  });
}
