const POINT = /^\s*[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?\s*$/;
const COMMA = /^\s*[+-]?(\d+,?\d*|,\d+)([eE][+-]?\d+)?\s*$/;

/** Strict decimal number with a decimal point or comma; NaN for anything else, also for an empty field. */
export function parseDecimal(text: string | undefined, decimal: '.' | ',' = '.'): number {
  if (text === undefined) return Number.NaN;
  if (decimal === '.') return POINT.test(text) ? Number(text) : Number.NaN;
  return COMMA.test(text) ? Number(text.replace(',', '.')) : Number.NaN;
}
