import { convertDifference, convertUnit } from './convert.ts';
import { combinedUnits } from './derived.ts';
import { UNITS, type UnitId } from './table.ts';
import { dimensionWord } from '../words/index.ts';

/**
 * A number with its unit. A point lies on a scale (20 degC in a room); a difference does not (1 degC of tolerance). They
 * only part ways for temperatures on a shifted scale.
 */
export interface Quantity {
  readonly value: number;
  readonly unit: UnitId;
  readonly kind: 'point' | 'difference';
}

export const point = (value: number, unit: UnitId): Quantity => ({ value, unit, kind: 'point' });
export const difference = (value: number, unit: UnitId): Quantity => ({ value, unit, kind: 'difference' });

const shifted = (unit: UnitId) => UNITS[unit].dimension === 'temperature';

/** The same quantity in another unit. @throws {RangeError} when the units measure different things */
export function quantityIn(q: Quantity, unit: UnitId): Quantity {
  const value =
    q.kind === 'point' ? convertUnit(q.value, q.unit, unit) : convertDifference(q.value, q.unit, unit);
  return { ...q, value, unit };
}

/**
 * a + b in a's unit. Point + difference is a point; two points on a temperature scale cannot be added.
 * @throws {RangeError} for two temperatures, or units that measure different things
 */
export function addQuantities(a: Quantity, b: Quantity): Quantity {
  if (shifted(a.unit) && a.kind === 'point' && b.kind === 'point') {
    throw new RangeError(
      `Two temperatures cannot be added: ${a.value} ${UNITS[a.unit].symbol} and ${b.value} ${UNITS[b.unit].symbol}. Add a temperature difference instead.`,
    );
  }
  // The point, if there is one, keeps its place on the scale; the other is converted as a difference.
  const [base, step] = b.kind === 'point' && a.kind === 'difference' ? [quantityIn(b, a.unit), a] : [a, b];
  return { ...base, value: base.value + convertDifference(step.value, step.unit, a.unit) };
}

/** a - b in a's unit: the difference of two points, or a point moved down. @throws {RangeError} as addQuantities */
export function subtractQuantities(a: Quantity, b: Quantity): Quantity {
  if (b.kind === 'point') return difference(a.value - convertUnit(b.value, b.unit, a.unit), a.unit);
  return { ...a, value: a.value - convertDifference(b.value, b.unit, a.unit) };
}

/**
 * Product or quotient in a unit asked for. Temperatures on a scale must be differences or kelvin first.
 * @throws {RangeError} when the unit asked for does not have the dimension of the result
 */
export function combineQuantities(a: Quantity, b: Quantity, operation: '*' | '/', unit: UnitId): Quantity {
  for (const q of [a, b]) {
    if (UNITS[q.unit].zero !== 0 && q.kind === 'point') {
      throw new RangeError(
        `A temperature in ${UNITS[q.unit].symbol} cannot be multiplied or divided, because that scale does not start at absolute zero. Convert it to kelvin first.`,
      );
    }
  }
  const possible = combinedUnits(a.unit, b.unit, operation === '/');
  if (!possible.includes(unit)) {
    throw new RangeError(
      `${UNITS[a.unit].name} ${operation === '*' ? 'times' : 'divided by'} ${UNITS[b.unit].name} does not give ${dimensionWord(UNITS[unit].dimension)}; received the unit ${UNITS[unit].name}. ${
        possible.length > 0
          ? `Use ${possible
              .map((id) => UNITS[id].symbol || 'a ratio')
              .slice(0, 4)
              .join(', ')}.`
          : 'There is no unit for the result; use a formula stage.'
      }`,
    );
  }
  const si = a.value * UNITS[a.unit].scale;
  const other = b.value * UNITS[b.unit].scale;
  return difference((operation === '*' ? si * other : si / other) / UNITS[unit].scale, unit);
}
