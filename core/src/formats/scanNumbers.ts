/** Powers of ten that a double holds exactly. */
const POWERS = Array.from({ length: 23 }, (_, k) => 10 ** k);
const EXACT = 2 ** 53;

/**
 * Reads a row of plain decimal numbers straight from the text, which is many times quicker than cutting it into fields
 * first. What is no plain number (a word, an exponent, quotes, more digits than a double holds) is left to the caller.
 * @param text holds the row from `from` up to `to`
 * @param out receives the numbers; NaN for an empty field
 * @returns how many fields there are, or -1 where some field is no plain number or there are more than `out` holds
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
    let c = text.charCodeAt(i);
    while (i < to && c === 32) c = text.charCodeAt(++i);
    const negative = c === 45;
    if (negative || c === 43) c = text.charCodeAt(++i);
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
    if (digits === 0) {
      if (negative || places >= 0 || (i < to && c !== delimiter)) return -1;
      out[fields++] = Number.NaN;
    } else {
      if (mantissa >= EXACT || places > 22) return -1;
      while (i < to && c === 32) c = text.charCodeAt(++i);
      // One division of two exact numbers is rounded once, as the decimal itself would be.
      const value = places > 0 ? mantissa / POWERS[places]! : mantissa;
      out[fields++] = negative ? -value : value;
    }
    if (i >= to) return fields;
    if (c !== delimiter) return -1;
    i++;
    if (i === to) {
      if (fields === out.length) return -1;
      out[fields++] = Number.NaN;
      return fields;
    }
  }
}
