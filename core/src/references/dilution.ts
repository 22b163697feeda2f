import type { ReferenceValue } from '../model/calibration.ts';
import { decimalsFor, printNumber, type UnitId } from '../units/index.ts';
import { dilutionShare, type DilutionStep } from './dilutionShare.ts';

export type { DilutionStep } from './dilutionShare.ts';

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
  const { share, uRelative } = dilutionShare(steps);
  const value = stock * share;
  const uncertainty = 2 * value * Math.hypot(stockPercent / 100 / Math.sqrt(3), uRelative);
  const d = decimalsFor(uncertainty);
  return {
    title: steps.length === 0 ? 'Stock solution' : `Stock diluted ${printNumber(stock / value, 1)}-fold`,
    value,
    unit,
    uncertainty,
    workings: [
      `Stock ${stock} ±${stockPercent} %.`,
      ...steps.map(
        (s) =>
          `${s.taken} (±${s.takenPercent} %) made up to ${s.madeUpTo} (±${s.madeUpPercent} %): × ${printNumber(s.taken / s.madeUpTo, 4)}.`,
      ),
      `Result: ${printNumber(value, d)} ±${printNumber(uncertainty, d)} (k = 2).`,
    ],
  };
}
