import { UNITS, type UnitId } from '../units/index.ts';

/** A unit as a character display can write it: letters and figures only, at most three of them. */
export function faceUnit(unit: UnitId): string {
  return UNITS[unit].symbol
    .replace('°', '')
    .replace('µ', 'u')
    .replace('Ω', 'Ohm')
    .replace('²', '2')
    .replace('³', '3')
    .replace(/[^ -~]/g, '')
    .slice(0, 3);
}
