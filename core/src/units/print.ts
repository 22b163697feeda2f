import { UNITS, type UnitId } from './table.ts';

const MINUS = '\u2212';

/** Decimals that leave two significant digits of an uncertainty: 0.31 gives 2, 12 gives 0. Between 0 and 9. */
export function decimalsFor(uncertainty: number): number {
  if (!(uncertainty > 0) || !Number.isFinite(uncertainty)) return 0;
  // toPrecision settles cases such as 0.0996, which rounds up to 0.10 and so needs one decimal less.
  const exponent = Math.floor(Math.log10(Number(uncertainty.toPrecision(2))));
  return Math.min(9, Math.max(0, 1 - exponent));
}

/**
 * A number with fixed decimals and a true minus sign; a value that rounds to zero has no sign.
 * @param decimals digits after the point, 0 to 20
 * @param plus also write the plus sign
 */
export function printNumber(value: number, decimals: number, plus = false): string {
  if (Number.isNaN(value)) return '\u2013';
  if (!Number.isFinite(value)) return value > 0 ? '\u221e' : `${MINUS}\u221e`;
  const digits = Math.abs(value).toFixed(decimals);
  const isZero = Number(digits) === 0;
  if (value < 0 && !isZero) return MINUS + digits;
  return plus && !isZero ? `+${digits}` : digits;
}

/** A number to so many significant digits without an exponent between 1e-4 and 1e7, for values with no known uncertainty. */
export function printSignificant(value: number, digits = 3): string {
  if (!Number.isFinite(value) || value === 0) return printNumber(value, 0);
  const exponent = Math.floor(Math.log10(Math.abs(Number(value.toPrecision(digits)))));
  if (exponent < -4 || exponent > 6) return value.toExponential(digits - 1).replace('-', MINUS);
  return printNumber(value, Math.max(0, digits - 1 - exponent));
}

/**
 * A constant of any size to the digits that its uncertainty deserves: plain where the uncertainty is 1e-5 or more, as a
 * power of ten below that.
 */
export function printConstant(value: number, uncertainty: number): string {
  if (!(uncertainty > 0)) return printSignificant(value, 6);
  if (uncertainty >= 1e-5) return printNumber(value, decimalsFor(uncertainty));
  const digits =
    Math.floor(Math.log10(Math.abs(value) || uncertainty)) - Math.floor(Math.log10(uncertainty)) + 1;
  return value.toExponential(Math.min(15, Math.max(1, digits))).replaceAll('-', MINUS);
}

export interface PrintedQuantity {
  readonly value: string;
  readonly uncertainty: string;
  readonly symbol: string;
}

/**
 * Prints a value and its expanded uncertainty to the same decimal place, two significant digits of the uncertainty
 * (GUM, JCGM 100:2008, 7.2.6).
 * @example printWithUncertainty(19.7149, 0.312, 'degC') // { value: '19.71', uncertainty: '0.31', symbol: '°C' }
 */
export function printWithUncertainty(value: number, uncertainty: number, unit: UnitId): PrintedQuantity {
  const decimals = decimalsFor(uncertainty);
  const known = uncertainty > 0 && Number.isFinite(uncertainty);
  return {
    value: known ? printNumber(value, decimals) : printSignificant(value, 4),
    uncertainty: known ? printNumber(uncertainty, decimals) : '',
    symbol: UNITS[unit].symbol,
  };
}

/**
 * What a value is worth, beside it: two significant digits, or below what its own digits can show.
 * @param decimals of the value beside which it stands
 */
export function printWorth(uncertainty: number, decimals: number): string {
  const least = 10 ** -(decimals + 2);
  return uncertainty < least
    ? `±<${printNumber(least, decimals + 2)}`
    : `±${printSignificant(uncertainty, 2)}`;
}

/**
 * A value with what it is worth, both to the place that two digits of the latter deserve (GUM, JCGM 100:2008, 7.2.6); the value
 * alone where that is not known.
 * @param half half of the 95 % interval @param plus also write the plus sign
 * @example printWithin(0.62, 0.033) // 0.620 ±0.033
 */
export function printWithin(value: number, half: number, plus = false): string {
  if (!(half > 0) || !Number.isFinite(half)) return printSignificant(value, 3);
  const decimals = decimalsFor(half);
  return `${printNumber(value, decimals, plus)} ±${printNumber(half, decimals)}`;
}

/** A nominal figure, such as a part's rating: at most so many digits and no zeros after them. */
export const printNominal = (value: number, digits = 3): string =>
  String(Number(value.toPrecision(digits))).replace('-', MINUS);

/**
 * Places behind the point for a reading: to the digit of its uncertainty, but never finer than a tenth of the tolerance;
 * where the uncertainty is not known, to a quarter of the tolerance; one where neither is.
 * @param uncertainty expanded, in the reading's unit; null or NaN when not known
 */
export function readingDecimals(uncertainty: number | null, tolerance: number | null): number {
  const known = uncertainty !== null && Number.isFinite(uncertainty) && uncertainty > 0;
  const asked = tolerance !== null && tolerance > 0 ? tolerance : null;
  const step = known ? Math.max(uncertainty, (asked ?? 0) / 10) : asked !== null ? asked / 4 : 0.1;
  return Math.min(6, Math.max(0, Math.ceil(-Math.log10(step))));
}
