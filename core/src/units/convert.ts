import { UNITS, type UnitId } from './table.ts';
import { dimensionWord } from '../words/index.ts';

function requireSameDimension(from: UnitId, to: UnitId): void {
  if (UNITS[from].dimension !== UNITS[to].dimension) {
    throw new RangeError(
      `Cannot convert ${UNITS[from].name} to ${UNITS[to].name}: the first is a unit of ${dimensionWord(UNITS[from].dimension)}, the second of ${dimensionWord(UNITS[to].dimension)}. Choose a unit of ${dimensionWord(UNITS[from].dimension)}.`,
    );
  }
}

/**
 * Converts a point on a scale, so 0 degC becomes 32 degF.
 * @throws {RangeError} when the units measure different things.
 * @example convertUnit(100, 'degC', 'degF') // 212
 */
export function convertUnit(value: number, from: UnitId, to: UnitId): number {
  if (from === to) return value;
  requireSameDimension(from, to);
  return (value * UNITS[from].scale + UNITS[from].zero - UNITS[to].zero) / UNITS[to].scale;
}

/**
 * Converts a difference, a tolerance or an uncertainty, so 1 degC becomes 1.8 degF.
 * @throws {RangeError} when the units measure different things.
 */
export function convertDifference(value: number, from: UnitId, to: UnitId): number {
  if (from === to) return value;
  requireSameDimension(from, to);
  return (value * UNITS[from].scale) / UNITS[to].scale;
}
