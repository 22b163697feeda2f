import type { ChannelBrief } from '../model/gadget.ts';
import { UNITS } from '../units/index.ts';

export interface BriefFault {
  readonly field: keyof ChannelBrief;
  readonly message: string;
}

/** What a brief says that cannot be: the rules that a schema cannot tell. */
export function briefFaults(brief: ChannelBrief): BriefFault[] {
  const faults: BriefFault[] = [];
  const symbol = UNITS[brief.unit].symbol;
  if (!(brief.low < brief.high)) {
    faults.push({
      field: 'high',
      message: `The highest value must be above the lowest: ${brief.high} is not above ${brief.low} ${symbol}.`,
    });
  } else if (brief.tolerance >= (brief.high - brief.low) / 2) {
    faults.push({
      field: 'tolerance',
      message: `A tolerance of ±${brief.tolerance} ${symbol} covers the whole range of ${brief.high - brief.low} ${symbol}. Enter less than ${(brief.high - brief.low) / 2}.`,
    });
  }
  if (UNITS[brief.unit].dimension === 'temperature') {
    const zero = -UNITS[brief.unit].zero / UNITS[brief.unit].scale;
    if (brief.low < zero)
      faults.push({
        field: 'low',
        message: `Below absolute zero. Enter at least ${zero.toFixed(2)} ${symbol}.`,
      });
  }
  return faults;
}
