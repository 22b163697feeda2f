import { REASON } from '../stage/contract.ts';

export interface StageFaults {
  /** Samples that are no number after the stage. */
  readonly bad: number;
  /** Of those, the ones that arise here, by reason. */
  readonly arising: readonly { readonly reason: number; readonly count: number }[];
}

/** How many samples a column has, and how many bad ones of each reason. */
export interface ReasonCounts {
  readonly length: number;
  readonly bad: Readonly<Record<number, number>>;
}

/**
 * Where bad samples come from: for the column after each stage (index 0 raw), how many are bad and how many of each reason
 * are new since the stage before. A stage that gives fewer samples than it takes is charged only with reasons that it brings in.
 */
export function faultsByStage(columns: readonly ReasonCounts[]): StageFaults[] {
  return columns.map(({ length, bad }, k) => {
    const before = columns[k - 1];
    const thinned = before !== undefined && length !== before.length;
    const counts = Object.entries(bad).map(([reason, count]) => ({ reason: Number(reason), count }));
    const arising = counts.flatMap(({ reason, count }) => {
      const old = before?.bad[reason] ?? 0;
      const fresh = thinned ? (old === 0 ? count : 0) : Math.max(0, count - old);
      return fresh > 0 ? [{ reason, count: fresh }] : [];
    });
    return { bad: counts.reduce((sum, { count }) => sum + count, 0), arising };
  });
}

/** The same from the columns themselves. */
export const stageFaults = (columns: readonly { readonly reasons: ArrayLike<number> }[]): StageFaults[] =>
  faultsByStage(
    columns.map(({ reasons }) => {
      const bad: Record<number, number> = {};
      for (let i = 0; i < reasons.length; i++) {
        const reason = reasons[i]!;
        if (reason !== REASON.ok) bad[reason] = (bad[reason] ?? 0) + 1;
      }
      return { length: reasons.length, bad };
    }),
  );
