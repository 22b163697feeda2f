import { parseDecimal } from './parseDecimal.ts';
import { POWERS_OF_TEN } from './powersOfTen.ts';

const EXACT = 2 ** 53;

/**
 * Reads a row of decimal numbers straight from the text, which is many times quicker than cutting it into fields first.
 * A field that is long or has an exponent is read by itself; what is no number at all is left to the caller.
 * @param text holds the row from `from` up to `to`
 * @param out receives the numbers; NaN for an empty field
 * @returns how many fields there are, or -1 where some field is no number or there are more than `out` holds
 */
export function scanNumbers(
  text: string,
  from: number,
  to: number,
  delimiter: number,
  decimal: number,
  out: Float64Array,
): number {
  let fields = 0;
  let i = from;
  for (;;) {
    if (fields === out.length) return -1;
    const start = i;
    let c = text.charCodeAt(i);
    while (i < to && c === 32) c = text.charCodeAt(++i);
    const negative = c === 45;
    const signed = negative || c === 43;
    if (signed) c = text.charCodeAt(++i);
    let mantissa = 0;
    let digits = 0;
    let places = -1;
    while (i < to) {
      if (c >= 48 && c <= 57) {
        mantissa = mantissa * 10 + (c - 48);
        digits++;
        if (places >= 0) places++;
      } else if (c === decimal && places < 0) places = 0;
      else break;
      c = text.charCodeAt(++i);
    }
    while (i < to && c === 32) c = text.charCodeAt(++i);
    const whole = i >= to || c === delimiter;
    if (whole && digits > 0 && mantissa < EXACT && places <= 22) {
      // One division of two exact numbers is rounded once, as the decimal itself would be.
      const value = places > 0 ? mantissa / POWERS_OF_TEN[places]! : mantissa;
      out[fields++] = negative ? -value : value;
    } else if (whole && digits > 0 && decimal === 46) {
      out[fields++] = Number(text.slice(start, i));
    } else if (whole && digits === 0 && !signed && places < 0) {
      out[fields++] = Number.NaN;
    } else {
      while (i < to && text.charCodeAt(i) !== delimiter) i++;
      const value = parseDecimal(text.slice(start, i), decimal === 44 ? ',' : '.');
      if (Number.isNaN(value)) return -1;
      out[fields++] = value;
    }
    if (i >= to) return fields;
    i++;
    if (i === to) {
      if (fields === out.length) return -1;
      out[fields++] = Number.NaN;
      return fields;
    }
  }
}
