import { compileLine, editLine } from '../../../src/line/index.ts';
import type { Calibration, FitResult } from '../../../src/model/calibration.ts';
import type { ChannelBrief } from '../../../src/model/gadget.ts';
import type { LineSpec } from '../../../src/model/line.ts';
import { lineBudget, type SensorOwn } from '../../../src/prove/index.ts';
import { CONTEXT } from './fitCases.ts';

/**
 * Half-width at 95 % that a maker is shown of a reading after a true-up, without noise and with nothing that moves.
 * @param left what the shelf says that the part is good to as bought, and what a true-up leaves of it, in the reading's unit
 */
export function shownHalf(as: LineSpec, result: FitResult, reading: number, left: number): number {
  const line = compileLine(editLine(as, result.edits), CONTEXT);
  const { unit } = line.outputs[0]!;
  const sensor: SensorOwn = {
    title: 'a part that bends',
    unit,
    signal: 'voltage',
    // A place may lie a little beyond the outermost points, as noise has them.
    accuracyFixed: left,
    accuracyShare: 0,
    afterTrueUp: left,
    responseS: 0,
    noise: 0,
  };
  const budget = lineBudget({
    line,
    brief: {
      low: reading,
      high: reading,
      unit,
      fastest: { kind: 'ramp', ratePerS: 0 },
    } as ChannelBrief,
    calibration: { number: 1, result } as Calibration,
    points: [],
    seen: [],
    sensor,
    achievedHz: null,
    now: null,
    noiseRaw: 0,
    hysteresis: 0,
  });
  if (typeof budget === 'string') throw new Error(budget);
  if (budget.result.unknown.length > 0) throw new Error(`Unknown: ${budget.result.unknown.join(', ')}`);
  return budget.result.expanded;
}
