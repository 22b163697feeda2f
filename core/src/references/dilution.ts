import type { ReferenceValue } from '../model/calibration.ts';
import { decimalsFor, printNumber, type UnitId } from '../units/index.ts';

export interface DilutionStep {
  readonly taken: number;
  readonly madeUpTo: number;
  readonly takenPercent: number;
  readonly madeUpPercent: number;
}

/**
 * Concentration after a row of dilutions: stock times taken / made up at each step. Relative tolerances (rectangular) add
 * in squares.
 * @throws {RangeError} when a step takes more than it is made up to
 */
export function dilutionReference(
  stock: number,
  stockPercent: number,
  steps: readonly DilutionStep[],
  unit: UnitId,
): ReferenceValue {
  steps.forEach((s, i) => {
    if (s.taken > s.madeUpTo)
      throw new RangeError(
        `Dilution step ${i + 1} takes ${s.taken} and makes it up to ${s.madeUpTo}: the second must be the larger. Swap them.`,
      );
  });
  const value = steps.reduce((c, s) => (c * s.taken) / s.madeUpTo, stock);
  const percents = [stockPercent, ...steps.flatMap((s) => [s.takenPercent, s.madeUpPercent])];
  const uncertainty = (value * 2 * Math.hypot(...percents)) / Math.sqrt(3) / 100;
  const d = decimalsFor(uncertainty);
  return {
    title: steps.length === 0 ? 'Stock solution' : `Stock diluted ${printNumber(stock / value, 1)}-fold`,
    value,
    unit,
    uncertainty,
    workings: [
      `Stock ${stock}, within ${stockPercent} %.`,
      ...steps.map(
        (s) =>
          `${s.taken} (${s.takenPercent} %) made up to ${s.madeUpTo} (${s.madeUpPercent} %): × ${printNumber(s.taken / s.madeUpTo, 4)}.`,
      ),
      `Together ${printNumber(value, d)} ± ${printNumber(uncertainty, d)} (k = 2).`,
    ],
  };
}
