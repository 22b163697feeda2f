import type { BudgetAnswer } from '../model/proof.ts';
import type { UnitId } from '../units/index.ts';
import type { ReadingBudget } from './lineBudget.ts';

/** A budget as it is told: what is not known is null, and of a sum that is not known nothing has a share. */
export function budgetAnswer({ at, raw, lines, result }: ReadingBudget, unit: UnitId): BudgetAnswer {
  const { expanded, coverageFactor, effectiveDegreesOfFreedom, unknown, contributions, shares } = result;
  const isWhole = unknown.length === 0;
  return {
    expanded,
    at,
    unit,
    isNow: raw.length !== 1,
    coverageFactor,
    degreesOfFreedom: Number.isFinite(effectiveDegreesOfFreedom) ? effectiveDegreesOfFreedom : null,
    unknown: [...unknown],
    lines: lines.map(({ title, source, halfWidth, unit: own, distribution }, i) => ({
      title,
      source,
      halfWidth: Number.isNaN(halfWidth) ? null : halfWidth,
      unit: own,
      distribution,
      gives: Number.isNaN(halfWidth) ? null : contributions[i]!,
      share: isWhole ? shares[i]! : null,
    })),
  };
}
