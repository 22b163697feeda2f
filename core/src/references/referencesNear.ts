import type { Place } from '../model/gadget.ts';
import { convertUnit, type UnitId } from '../units/index.ts';
import { referencesFor, startReference, type ReferenceKind } from './referencesFor.ts';
import { referenceValue } from './referenceValue.ts';

/** Those whose value nobody chooses: it is where it is. */
const FIXED: readonly ReferenceKind[] = ['ice-slurry', 'boiling-elevation', 'nothing'];

/**
 * References that can be had near a reading: those that lie there by themselves first, then what can be brought anywhere.
 * @param within how far off still counts as near, in the unit
 */
export function referencesNear(unit: UnitId, place: Place, at: number, within: number): string[] {
  const offered = referencesFor(unit);
  const there = offered
    .filter(({ kind }) => FIXED.includes(kind))
    .filter(({ kind }) => {
      const worth = referenceValue(startReference(kind, unit, place), unit);
      return Math.abs(convertUnit(worth.value, worth.unit, unit) - at) <= within;
    });
  const anywhere = offered.filter(({ kind }) => !FIXED.includes(kind) && kind !== 'boiling-pressure');
  return [...there, ...anywhere].map(({ title }) => title);
}
