import type { NowFigure, SeenEvent } from '@lucky-needle/core/model';
import { printNumber, printWorth, UNITS } from '@lucky-needle/core/units';

/** A figure with its unit, or a dash. */
export function figureText({ value, unit, decimals }: NowFigure): string {
  if (value === null) return '–';
  return `${printNumber(value, decimals)} ${UNITS[unit].symbol}`.trim();
}

/** What a figure is worth: "±0.4", or that it is not known. */
export function worthText({ value, uncertainty, decimals }: NowFigure): string {
  if (value === null) return '';
  if (uncertainty === null) return '± unknown';
  if (uncertainty === 0) return '';
  return printWorth(uncertainty, decimals);
}

export interface EventTally {
  readonly counted: number;
  readonly refused: number;
}

/** How many events count, and how many do not; begins of stretches are told with their end. */
export function tallyOf(events: readonly SeenEvent[], watchId: string): EventTally {
  const own = events.filter((e) => e.watchId === watchId && e.what === 'event');
  const counted = own.filter((e) => e.counted).length;
  return { counted, refused: own.length - counted };
}
