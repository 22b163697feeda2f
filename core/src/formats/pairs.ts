/** A name with the text that follows it, such as "temp: 21.4" or "hum=40%". */
export interface Pair {
  readonly name: string;
  /** Whole, up to the next blank or separator. */
  readonly value: string;
  /** The word behind it, such as a unit; empty where another pair or nothing follows. */
  readonly word: string;
}

const isLabel = (c: number) =>
  (c >= 48 && c <= 57) ||
  (c >= 65 && c <= 90) ||
  (c >= 97 && c <= 122) ||
  c === 95 ||
  c === 32 ||
  c === 46 ||
  c === 45;
const isLetter = (c: number) => (c >= 65 && c <= 90) || (c >= 97 && c <= 122) || c === 95;
const isBlank = (c: number) => c === 32 || (c >= 9 && c <= 13) || c === 160;
const isDigit = (c: number) => c >= 48 && c <= 57;
const [COMMA, SEMICOLON, BAR, COLON, EQUALS, QUOTE] = [44, 59, 124, 58, 61, 34];

/**
 * Pairs of a line, whatever stands between them. A name starts with a letter; a value is taken whole, so "21,5" and "0x1F" are
 * never cut to what looks like a number at their start. One look at every character: time grows with length alone.
 */
export function pairsIn(line: string): Pair[] {
  const pairs: Pair[] = [];
  let from = 0;
  for (let i = 0; i < line.length; i++) {
    const c = line.charCodeAt(i);
    if (c !== COLON && c !== EQUALS) continue;
    const name = nameBefore(line, from, i);
    const value = name === '' ? null : valueAfter(line, i + 1);
    if (value === null) {
      from = i + 1;
      continue;
    }
    const word = wordAfter(line, value.end);
    pairs.push({ name, value: value.text, word });
    from = value.end;
    i = value.end - 1;
  }
  return pairs;
}

/** The letters and digits directly before the sign, from their first letter on. */
function nameBefore(line: string, from: number, sign: number): string {
  let end = sign;
  while (end > from && isBlank(line.charCodeAt(end - 1))) end--;
  let start = end;
  while (start > from && isLabel(line.charCodeAt(start - 1))) start--;
  while (start < end && !isLetter(line.charCodeAt(start))) start++;
  return line.slice(start, end).trim();
}

function valueAfter(line: string, at: number): { text: string; end: number } | null {
  let start = at;
  while (start < line.length && isBlank(line.charCodeAt(start))) start++;
  if (line.charCodeAt(start) === QUOTE) {
    const close = line.indexOf('"', start + 1);
    if (close > 0) return { text: line.slice(start, close + 1), end: close + 1 };
  }
  let end = start;
  for (; end < line.length; end++) {
    const c = line.charCodeAt(end);
    if (isBlank(c) || c === SEMICOLON || c === BAR || c === EQUALS) break;
    // A colon within a value, as of a time of day, is part of it; one behind a word begins another pair.
    if (c === COLON && !isDigit(line.charCodeAt(end + 1))) break;
    // A comma before a digit may be a decimal sign: the value is taken whole, and judged.
    if (c === COMMA && !isDigit(line.charCodeAt(end + 1))) break;
  }
  return end === start ? null : { text: line.slice(start, end), end };
}

function wordAfter(line: string, from: number): string {
  let start = from;
  while (start < line.length && isBlank(line.charCodeAt(start))) start++;
  let end = start;
  while (end < line.length && !isBlank(line.charCodeAt(end)) && !',;|:='.includes(line[end]!)) end++;
  // What stands before a sign is the next name.
  let next = end;
  while (next < line.length && isBlank(line.charCodeAt(next))) next++;
  const isName = line[next] === ':' || line[next] === '=';
  return isName ? '' : line.slice(start, end);
}

/** A number as it is written at the start of a value. */
const NUMBER = /^[+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d+)?/;

/**
 * The number of a value and the unit that is stuck to it, as of "40%" or "21.4C". A decimal comma is one; NaN for what is no
 * number as a whole, such as "0x1F", "1,2,3" or "12:30", and infinite ones. "nan" and dashes are missing: null.
 */
export function numberIn(value: string): { readonly value: number; readonly unit: string } | null {
  if (/^(nan|-{1,2})$/i.test(value)) return null;
  const none = { value: Number.NaN, unit: '' };
  if (/^[+-]?0[xXbBoO]/.test(value)) return none;
  const match = NUMBER.exec(value);
  if (!match) return none;
  const unit = value.slice(match[0].length);
  const number = Number(match[0].replace(',', '.'));
  return Number.isFinite(number) && !/^[\d.,:_]/.test(unit) ? { value: number, unit } : none;
}
