import { printNominal } from '../../units/index.ts';
import type { ExpectedRow } from './expectedRows.ts';

export interface RowJudgement {
  readonly state: 'right' | 'wrong' | 'no reading';
  readonly sentence: string;
}

/**
 * Live values against a row of the sheet.
 * @param raw newest raw value of each of the row's columns, NaN when there is none
 * @param reading the newest shown reading, for rows without raw columns
 */
export function judgeRow(row: ExpectedRow, raw: readonly number[], reading: number): RowJudgement {
  const pairs =
    row.raw.length > 0
      ? row.raw.map((c, i) => ({ name: c.column, off: raw[i]! - c.value, tolerance: c.tolerance }))
      : [{ name: 'The reading', off: reading - row.reading[0]!, tolerance: row.readingTolerance }];
  if (pairs.some((q) => !Number.isFinite(q.off)))
    return { state: 'no reading', sentence: 'No live reading to compare.' };
  const turn = row.unit === 'deg' ? 360 : Infinity;
  const wrapped = (off: number) => (turn === 360 ? ((((off + 180) % 360) + 360) % 360) - 180 : off);
  const bad = pairs.find((q) => Math.abs(wrapped(q.off)) > q.tolerance);
  return bad
    ? {
        state: 'wrong',
        sentence: `${bad.name} is off by ${printNominal(wrapped(bad.off))}, more than ±${printNominal(bad.tolerance, 2)}.`,
      }
    : { state: 'right', sentence: 'As expected.' };
}
