import type { ChannelBrief } from '../model/gadget.ts';
import { convertUnit, UNITS, type UnitId } from '../units/index.ts';

/** The brief's range in the unit that a line ends in: as shown, or as sensed; null where it speaks of neither. */
export function rangeIn(
  brief: ChannelBrief,
  unit: UnitId,
): { readonly low: number; readonly high: number } | null {
  for (const range of [brief, brief.sensed])
    if (range && UNITS[range.unit].dimension === UNITS[unit].dimension)
      return {
        low: convertUnit(range.low, range.unit, unit),
        high: convertUnit(range.high, range.unit, unit),
      };
  return null;
}
