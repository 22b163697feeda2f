import { printNumber, printSignificant } from '../units/index.ts';

/** Expanded uncertainty (k = 2) of a standard one with its unit, in two digits: "±0.12 s", or "unknown". */
export const plusMinus = (u: number, unit: string): string =>
  Number.isFinite(u) ? `±${printSignificant(2 * u, 2)} ${unit}` : 'unknown';

export const seconds = (s: number): string => `${printNumber(s, s < 10 ? 3 : 2)} s`;
