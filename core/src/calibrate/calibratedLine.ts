import { editLine } from '../line/edits.ts';
import type { Calibration } from '../model/calibration.ts';
import type { LineSpec } from '../model/line.ts';

/** The line of a channel with its calibration in use, if it has one; also tells which. */
export function calibratedLine(
  line: LineSpec,
  channelId: string,
  calibrations: readonly Calibration[],
): { line: LineSpec; calibration: Calibration | null } {
  const calibration = calibrations.find((c) => c.channelId === channelId && c.state === 'in use') ?? null;
  return { line: calibration ? editLine(line, calibration.result.edits) : line, calibration };
}
