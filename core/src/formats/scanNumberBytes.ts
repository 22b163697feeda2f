import { decimalOf } from './decimalOf.ts';
import { parseDecimal } from './parseDecimal.ts';
import { POWERS_OF_TEN } from './powersOfTen.ts';

const SPACE = 32;
const LINE_END = 10;
const RETURN = 13;

/**
 * Reads a row of decimal numbers straight from the bytes of a file: what most rows of a table are. Digits are gathered nine
 * at a time as small whole numbers. What has an exponent or very many digits is read by itself; what is no number at all is
 * left to the caller.
 * @param bytes holds the row from `from` on, and its line end
 * @param out receives the numbers, as many as a row has; NaN for an empty field
 * @returns where the line end begins, or -1 where a field is no number or there are more or fewer of them
 */
export function scanNumberBytes(
  bytes: Uint8Array,
  from: number,
  delimiter: number,
  decimal: number,
  out: Float64Array,
): number {
  const last = out.length - 1;
  let i = from;
  for (let field = 0; ; field++) {
    const start = i;
    let c = bytes[i]!;
    while (c === SPACE) c = bytes[++i]!;
    const negative = c === 45;
    const signed = negative || c === 43;
    if (signed) c = bytes[++i]!;
    let digit = (c - 48) | 0;
    const begun = i;
    let small = 0;
    while (digit >= 0 && digit <= 9 && i < begun + 9) {
      small = (small * 10 + digit) | 0;
      digit = (bytes[++i]! - 48) | 0;
    }
    let whole = small;
    while (digit >= 0 && digit <= 9) {
      whole = whole * 10 + digit;
      digit = (bytes[++i]! - 48) | 0;
    }
    const before = i - begun;
    let after = 0;
    let first = 0;
    let second = 0;
    const pointed = digit + 48 === decimal;
    if (pointed) {
      const begin = ++i;
      const nine = i + 9;
      digit = (bytes[i]! - 48) | 0;
      while (digit >= 0 && digit <= 9 && i < nine) {
        first = (first * 10 + digit) | 0;
        digit = (bytes[++i]! - 48) | 0;
      }
      while (digit >= 0 && digit <= 9) {
        second = (second * 10 + digit) | 0;
        digit = (bytes[++i]! - 48) | 0;
      }
      after = i - begin;
    }
    c = digit + 48;
    while (c === SPACE) c = bytes[++i]!;
    const ended = c === delimiter || c === LINE_END || c === RETURN;
    let value = Number.NaN;
    if (ended && before + after > 0 && before <= 15 && after <= 18) {
      if (after === 0) value = whole;
      else if (after <= 9)
        value =
          before + after <= 15
            ? // One division of two exact numbers is rounded once, as the decimal itself would be.
              (whole * POWERS_OF_TEN[after]! + first) / POWERS_OF_TEN[after]!
            : decimalOf(whole, after, first, after);
      else if (before <= 6) value = decimalOf(whole * 1e9 + first, after - 9, second, after);
    }
    if (value === value) out[field] = negative ? -value : value;
    else if (ended && !signed && !pointed && before === 0) out[field] = Number.NaN;
    else {
      while (c !== delimiter && c !== LINE_END && c !== RETURN) c = bytes[++i]!;
      value = parseDecimal(textOf(bytes, start, i), decimal === 44 ? ',' : '.');
      if (Number.isNaN(value)) return -1;
      out[field] = value;
    }
    if (field === last) return c === LINE_END || (c === RETURN && bytes[i + 1] === LINE_END) ? i : -1;
    if (c !== delimiter) return -1;
    i++;
  }
}

/** Bytes of a number as text; what is no ASCII is no number either. */
function textOf(bytes: Uint8Array, from: number, to: number): string {
  let text = '';
  for (let i = from; i < to; i++) text += String.fromCharCode(bytes[i]!);
  return text;
}
