import type { ChannelBrief } from '../model/gadget.ts';
import { rateForPeak } from '../numerics/samplingRate.ts';
import { convertUnit, UNITS, type UnitId } from '../units/index.ts';

/** However wide the tolerance, half of a peak is to be seen. */
const MOST_LOST = 0.5;

/** Share of the brief's highest reading that sampling may lose of a pulse: what the tolerance allows of it. */
export function peakLossAllowed({ tolerance, low, high }: ChannelBrief): number {
  return Math.min(MOST_LOST, tolerance / Math.max(Math.abs(low), Math.abs(high)));
}

/**
 * Readings a second the brief's fastest event asks for: a ramp may move a fifth of the tolerance between readings; a
 * half-sine pulse of the highest reading may lose no more than the tolerance, f >= pi / (2 w acos(1 - tolerance / high));
 * a tone wants ten samples a period; two crossings timed by level want f >= sqrt 2 / (sqrt 12 u), u the standard
 * uncertainty asked; edges must be followed at threefold.
 */
export function neededRateHz(brief: ChannelBrief): number {
  switch (brief.fastest.kind) {
    case 'ramp':
      return (5 * brief.fastest.ratePerS) / brief.tolerance;
    case 'pulse':
      return rateForPeak(brief.fastest.widthS, peakLossAllowed(brief));
    case 'tone':
      return 10 * brief.fastest.frequencyHz;
    case 'crossing':
      return 1 / (Math.sqrt(6) * brief.fastest.timingS);
    case 'edges':
      return 3 * edgeRateHz(brief.unit, brief.high, brief.fastest.marks);
  }
}

/** Edges a second at a rate of turns given in its own unit. */
export function edgeRateHz(unit: UnitId, high: number, marks: number): number {
  return UNITS[unit].dimension === 'frequency' ? convertUnit(high, unit, 'Hz') * marks : high * marks;
}
