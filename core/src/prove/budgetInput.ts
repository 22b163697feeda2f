import type { CompiledLine } from '../line/compile.ts';
import type { Calibration, CalibrationPoint } from '../model/calibration.ts';
import type { ChannelBrief } from '../model/gadget.ts';
import { UNITS } from '../units/index.ts';
import { BUDGET_SOURCES, type BudgetSource } from './budgetSources.ts';
import type { BudgetLine } from './errorBudget.ts';
import type { SeenInPoints } from './seenInPoints.ts';
import type { SensorOwn } from './sensorOwn.ts';

export interface BudgetInput extends SeenInPoints {
  /** The channel's line with its calibration. */
  readonly line: CompiledLine;
  readonly brief: ChannelBrief;
  readonly calibration: Calibration | null;
  readonly points: readonly CalibrationPoint[];
  /** Raw rows that were really seen, one value a source: used where a line cannot be walked back from the brief's ends. */
  readonly seen: readonly (readonly number[])[];
  /** The picked sensor, as the shelf has it; null where none is picked, or it feels another quantity. */
  readonly sensor: SensorOwn | null;
  /** Readings a second as they come; null while none do, and those that were meant count. */
  readonly achievedHz: number | null;
  /** The newest reading, for a line that has no readings at rest; null before the first. */
  readonly now: ReadingNow | null;
}

/** A reading as the bench has just worked it out. */
export interface ReadingNow {
  readonly reading: number;
  /** Its standard uncertainty from constants and noise; null where nothing is known of it. */
  readonly u: number | null;
}

/** A row of a channel's budget, which knows its source. */
export interface SourceLine extends BudgetLine {
  readonly id: BudgetSource;
}

/** A line of the budget in the unit of the readings; what is not said of it is taken as normal and well known. */
export function lineOf(
  { line }: BudgetInput,
  id: BudgetSource,
  halfWidth: number,
  source: string,
  more: Partial<BudgetLine> = {},
): SourceLine {
  return {
    id,
    title: BUDGET_SOURCES[id],
    halfWidth,
    unit: UNITS[line.outputs[0]!.unit].symbol,
    distribution: 'normal',
    sensitivity: 1,
    degreesOfFreedom: Infinity,
    source,
    ...more,
  };
}
