import type { AlarmRule } from '../model/alarm.ts';
import { convertUnit, UNITS, type UnitId } from '../units/index.ts';

/**
 * A value in the unit of a rule. NaN where a line was changed to another quantity: then it tells the rule nothing.
 * @param from the value's unit; null where nobody knows it yet, and the value is taken as it is
 */
export function inUnitOf(rule: AlarmRule, from: UnitId | null, value: number): number {
  if (from === null || from === rule.unit) return value;
  return UNITS[from].dimension === UNITS[rule.unit].dimension
    ? convertUnit(value, from, rule.unit)
    : Number.NaN;
}
