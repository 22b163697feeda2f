import type { Brief } from '../model/gadget.ts';
import { UNITS } from '../units/index.ts';

/** The brief in a few words: the first ask, and how many more there are. */
export function briefInWords(brief: Brief): string {
  const { quantity, low, high, unit, tolerance } = brief.asks[0]!;
  const symbol = UNITS[unit].symbol;
  const more = brief.asks.length - 1;
  return `${quantity} ${low}…${high} ${symbol}, ±${tolerance}${more > 0 ? `, and ${more} more` : ''}`;
}
