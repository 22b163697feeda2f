import { printNumber, printSignificant } from '../units/index.ts';

/** Standard uncertainty as arithmetic shows it: two digits. */
export const plusMinus = (u: number): string =>
  Number.isFinite(u) ? `±${printSignificant(2 * u, 2)}` : '± not known';

export const seconds = (s: number): string => `${printNumber(s, s < 10 ? 3 : 2)} s`;
