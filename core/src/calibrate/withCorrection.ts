import type { LineSpec } from '../model/line.ts';
import { CORRECTION } from './fits/correction.ts';

/** Whether what a line gives can be shifted and scaled by a calibration. */
export const hasCorrection = (line: LineSpec): boolean =>
  line.stages.some((s) => !s.off && CORRECTION.includes(s.kind));

/** The line with a gain of one and an offset of zero at its end, for a calibration to find; as it is where it has one. */
export function withCorrection(line: LineSpec): LineSpec {
  if (hasCorrection(line)) return line;
  let id = 'correction';
  for (let n = 2; line.stages.some((s) => s.id === id); n++) id = `correction-${n}`;
  const stage = { id, kind: CORRECTION[0]!, params: { gain: 1, offset: 0 }, uncertainty: {}, off: false };
  return { ...line, stages: [...line.stages, stage] };
}
