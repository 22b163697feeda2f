import type { ChannelBrief } from '@lucky-needle/core/model';
import { toleranceIn } from '@lucky-needle/core/plan';
import { printNumber, printSignificant, printWorth, readingDecimals, UNITS } from '@lucky-needle/core/units';
import type { LiveLine } from '../../live/useLiveLine.ts';

export interface ReadingText {
  readonly value: string;
  /** Empty where nobody knows. */
  readonly worth: string;
}

/** The newest reading with the digits that it deserves, as on the needle. @param worth its standard uncertainty */
export function readingText(
  { line, newest }: LiveLine,
  brief: ChannelBrief | null,
  worth: number | null,
): ReadingText {
  const value = newest.at(-1) ?? Number.NaN;
  if (!line || !Number.isFinite(value)) return { value: '–', worth: '' };
  const { unit } = line.outputs[0]!;
  const tolerance = toleranceIn(brief, unit);
  const u = 2 * (worth ?? Number.NaN);
  const decimals = readingDecimals(u, tolerance);
  const text =
    tolerance === null && Number.isNaN(u) ? printSignificant(value, 4) : printNumber(value, decimals);
  return {
    value: `${text} ${UNITS[unit].symbol}`,
    worth: Number.isFinite(u) ? printWorth(u, decimals) : '',
  };
}
