import { REASON, type LaneData } from '../stage/contract.ts';

export interface StageFaults {
  /** Samples that are no number after the stage. */
  readonly bad: number;
  /** Of those, the ones that arise here, by reason. */
  readonly arising: readonly { readonly reason: number; readonly count: number }[];
}

/**
 * Where bad samples come from: for the column after each stage (index 0 raw), how many are bad and how many of each reason
 * are new since the stage before. A stage that gives fewer samples than it takes is charged only with reasons that it brings in.
 */
export function stageFaults(columns: readonly Pick<LaneData, 'reasons'>[]): StageFaults[] {
  let before = new Map<number, number>();
  let lengthBefore = -1;
  return columns.map(({ reasons }) => {
    const counts = new Map<number, number>();
    for (const reason of reasons) if (reason !== REASON.ok) counts.set(reason, (counts.get(reason) ?? 0) + 1);
    const thinned = lengthBefore >= 0 && reasons.length !== lengthBefore;
    const arising = [...counts].flatMap(([reason, count]) => {
      const old = before.get(reason) ?? 0;
      const fresh = thinned ? (old === 0 ? count : 0) : Math.max(0, count - old);
      return fresh > 0 ? [{ reason, count: fresh }] : [];
    });
    before = counts;
    lengthBefore = reasons.length;
    return { bad: [...counts.values()].reduce((a, b) => a + b, 0), arising };
  });
}
