import { convertUnit } from './convert.ts';
import { UNIT_IDS, UNITS, type UnitId } from './table.ts';
import { dimensionWord } from '../words/index.ts';

export interface ParsedQuantity {
  readonly value: number;
  /** Null when a bare number was typed and no unit was expected. */
  readonly unit: UnitId | null;
}

/** Factors for a letter that stands for the decimal point of a component value, as in 4k7. IEC 60062. */
const LETTER: Readonly<Record<string, number>> = {
  p: 1e-12,
  n: 1e-9,
  u: 1e-6,
  µ: 1e-6,
  m: 1e-3,
  R: 1,
  r: 1,
  k: 1e3,
  K: 1e3,
  M: 1e6,
  G: 1e9,
};

/**
 * Reads what people type: "170 mA", "4k7", "1/4 in", "2 1/2 in", "2,5", "1.2e-3", "−4 °C", "3R3".
 * A comma is a decimal comma unless it groups thousands beside a decimal point ("1,234.5").
 * @param expected unit of the field: a bare number is taken in it, and the result is converted to it
 * @returns the value and unit, or a sentence that says what is wrong and how to write it
 */
export function parseQuantity(text: string, expected?: UnitId): ParsedQuantity | string {
  const clean = text.normalize('NFKC').replaceAll('\u2212', '-').replaceAll('μ', 'µ').trim();
  if (clean === '') return 'Enter a number, with a unit if you like, such as 2.5 mm.';
  const code = /^([+-]?)(\d+)([pnuµmRrkKMG])(\d+)(\D*)$/.exec(clean);
  if (code) return componentCode(code, expected, text);
  const match = /^([+-]?\s*(?:\d+\s+\d+\/\d+|\d+\/\d+|[\d.,]+(?:[eE][+-]?\d+)?))/.exec(clean);
  const value = match ? plainNumber(match[1]!.replace(/^([+-])\s+/, '$1')) : 'no number found';
  if (typeof value === 'string' || !match) {
    return `Cannot read “${text}” (${value}). Enter a number with a unit, such as 2.5 mm, 4k7 or 1/4 in.`;
  }
  const written = clean.slice(match[0].length).trim();
  if (written === '') return { value, unit: expected ?? null };
  const unit = unitNamed(written, expected);
  if (!unit) return `Unknown unit “${written}”. ${suggestion(expected)}`;
  return inExpected(value, unit, expected, text);
}

function componentCode(
  match: RegExpExecArray,
  expected: UnitId | undefined,
  text: string,
): ParsedQuantity | string {
  const [, sign, whole, letter, fraction, rest] = match;
  const value = Number(`${sign}${whole}.${fraction}`) * LETTER[letter!]!;
  const unit = rest!.trim() === '' ? undefined : unitNamed(rest!.trim(), expected);
  if (rest!.trim() !== '' && !unit) return `Unknown unit “${rest!.trim()}”. ${suggestion(expected)}`;
  const base = unit ?? (/[pnuµ]/.test(letter!) ? 'F' : expected ? baseOf(expected) : 'ohm');
  return inExpected(value, base, expected, text);
}

/** The unit of scale one in a unit's dimension, so that 4k7 means 4700 ohm in a field of kilohm too. */
function baseOf(unit: UnitId): UnitId {
  return (
    UNIT_IDS.find((id) => UNITS[id].dimension === UNITS[unit].dimension && UNITS[id].scale === 1) ?? unit
  );
}

function inExpected(
  value: number,
  unit: UnitId,
  expected: UnitId | undefined,
  text: string,
): ParsedQuantity | string {
  if (!expected) return { value, unit };
  if (UNITS[unit].dimension !== UNITS[expected].dimension) {
    return `“${text}” is in a unit of ${dimensionWord(UNITS[unit].dimension)}, but this field needs ${dimensionWord(UNITS[expected].dimension)}. ${suggestion(expected)}`;
  }
  return { value: convertUnit(value, unit, expected), unit: expected };
}

function suggestion(expected: UnitId | undefined): string {
  if (!expected) return 'Use a symbol such as mA, kΩ, °C, mm or rpm.';
  const peers = UNIT_IDS.filter((id) => UNITS[id].dimension === UNITS[expected].dimension);
  return `Use ${peers
    .map((id) => UNITS[id].symbol || 'a plain number')
    .slice(0, 6)
    .join(', ')}.`;
}

/** A number, a fraction or a mixed fraction; a sentence when it is none. */
function plainNumber(text: string): number | string {
  const fraction = /^([+-]?)(?:(\d+)\s+)?(\d+)\/(\d+)$/.exec(text);
  if (fraction) {
    const [, sign, whole, top, bottom] = fraction;
    if (Number(bottom) === 0) return 'division by zero';
    return (sign === '-' ? -1 : 1) * (Number(whole ?? 0) + Number(top) / Number(bottom));
  }
  let plain = text;
  const commas = (text.match(/,/g) ?? []).length;
  const points = (text.match(/\./g) ?? []).length;
  if (commas === 1 && points === 0) plain = text.replace(',', '.');
  else if (commas > 0) {
    if (points > 1 || !/^[+-]?\d{1,3}(,\d{3})+(\.\d+)?([eE][+-]?\d+)?$/.test(text))
      return 'ambiguous commas and points';
    plain = text.replaceAll(',', '');
  }
  return /^[+-]?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d+)?$/.test(plain) ? Number(plain) : 'not a valid number';
}

/**
 * The unit of a symbol, a name or an alias. Exact spelling wins; then spelling without case, but only where that is
 * unambiguous; the expected unit's own dimension is preferred (so "g" is grams in a field of kilograms).
 */
export function unitNamed(text: string, expected?: UnitId): UnitId | undefined {
  const ascii = text.replaceAll('µ', 'u').replace(/Ω|Ω/g, 'ohm');
  const spellings = (id: UnitId) => [id, UNITS[id].symbol, UNITS[id].name, ...UNITS[id].aliases];
  const plain = (s: string) => s.replaceAll('µ', 'u').replace(/Ω|Ω/g, 'ohm');
  const choose = (found: UnitId[]) =>
    found.find((id) => expected && UNITS[id].dimension === UNITS[expected].dimension) ?? found[0];
  const exact = UNIT_IDS.filter((id) => id !== '1' && spellings(id).some((s) => plain(s) === ascii));
  if (exact.length > 0) return choose(exact);
  // Milli and mega, nano and newton differ by their case alone: there a guess could be a million off.
  if (/^([nkpgt]|m.?)$/i.test(ascii)) return undefined;
  const loose = UNIT_IDS.filter((id) =>
    spellings(id).some((s) => s !== '' && plain(s).toLowerCase() === ascii.toLowerCase()),
  );
  const fits = loose.filter((id) => !expected || UNITS[id].dimension === UNITS[expected].dimension);
  return fits.length === 1 ? fits[0] : loose.length === 1 ? loose[0] : undefined;
}
