import type { ReadingBudget } from '../figures/index.ts';

/** Standard uncertainties of a channel's readings at some of them, rising; between them by straight lines. */
export interface BudgetTable {
  readonly readings: readonly number[];
  readonly systematic: readonly number[];
  readonly noise: readonly number[];
}

const UNKNOWN: ReadingBudget = { systematic: Number.NaN, noise: Number.NaN };

/** Between the readings of a table by straight lines; beyond them as at its ends. */
export function budgetAt(table: BudgetTable | null): (value: number) => ReadingBudget {
  if (!table || table.readings.length === 0) return () => UNKNOWN;
  const { readings, systematic, noise } = table;
  return (value) => {
    let k = 0;
    while (k < readings.length - 1 && readings[k + 1]! < value) k++;
    const next = Math.min(k + 1, readings.length - 1);
    const width = readings[next]! - readings[k]!;
    const share = width > 0 ? Math.min(1, Math.max(0, (value - readings[k]!) / width)) : 0;
    const between = (column: readonly number[]) => column[k]! + share * (column[next]! - column[k]!);
    return { systematic: between(systematic), noise: between(noise) };
  };
}
