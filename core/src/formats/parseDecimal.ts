// No part of these can take what another could: time grows with length alone.
const POINT = /^[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?$/;
const COMMA = /^[+-]?(?:\d+(?:,\d*)?|,\d+)(?:[eE][+-]?\d+)?$/;

/** Strict decimal number with a decimal point or comma; NaN for anything else, also for an empty field and what no double holds. */
export function parseDecimal(text: string | undefined, decimal: '.' | ',' = '.'): number {
  if (text === undefined) return Number.NaN;
  const plain = text.trim();
  if (!(decimal === '.' ? POINT : COMMA).test(plain)) return Number.NaN;
  const value = Number(decimal === '.' ? plain : plain.replace(',', '.'));
  return Number.isFinite(value) ? value : Number.NaN;
}
