import type { Calibration } from '../model/calibration.ts';
import type { LineSpec } from '../model/line.ts';

/** Whether anything is known of what a line's readings are worth: a calibration, or the uncertainty of a constant as bought. */
export const isUncertaintyKnown = (line: LineSpec, used: Calibration | null): boolean =>
  used !== null || line.stages.some((stage) => Object.keys(stage.uncertainty).length > 0);
