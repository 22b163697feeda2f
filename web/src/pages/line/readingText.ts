import type { ChannelBrief } from '@lucky-needle/core/model';
import { toleranceIn } from '@lucky-needle/core/plan';
import { printNumber, printSignificant, readingDecimals, UNITS } from '@lucky-needle/core/units';
import type { LiveLine } from '../../live/useLiveLine.ts';

/** The newest reading with the digits that the tolerance deserves. */
export function readingText({ line, newest }: LiveLine, brief: ChannelBrief | null): string {
  const value = newest.at(-1) ?? Number.NaN;
  if (!line || !Number.isFinite(value)) return '–';
  const { unit } = line.outputs[0]!;
  const tolerance = toleranceIn(brief, unit);
  const text =
    tolerance === null
      ? printSignificant(value, 4)
      : printNumber(value, readingDecimals(Number.NaN, tolerance));
  return `${text} ${UNITS[unit].symbol}`;
}
