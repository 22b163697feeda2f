import { printSignificant, UNITS, type UnitId } from '../units/index.ts';

/** A level with its unit, as the reasons of a proposal say it. */
export const inWords = (value: number, unit: UnitId): string =>
  `${printSignificant(value, 3)} ${UNITS[unit].symbol}`.trim();

/** A number to three significant digits: what is found in data is not known better. */
export const toThree = (value: number): number => Number(value.toPrecision(3));
