import type { ReadingBudget } from '../figures/index.ts';
import { placeAmong } from '../numerics/index.ts';

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
    const { between } = placeAmong(readings, value);
    return { systematic: between(systematic), noise: between(noise) };
  };
}
