import { editLine } from '../line/edits.ts';
import { calibrationFault } from './calibrationFault.ts';
import type { Calibration } from '../model/calibration.ts';
import type { LineSpec } from '../model/line.ts';

/**
 * The line of a channel with its calibration in use, if it has one; also tells which. One that the line cannot be read by is
 * none: it reads as bought until it is trued up again.
 */
export function calibratedLine(
  line: LineSpec,
  channelId: string,
  calibrations: readonly Calibration[],
): { line: LineSpec; calibration: Calibration | null } {
  const used = calibrations.find((c) => c.channelId === channelId && c.state === 'in use') ?? null;
  const calibration = used && calibrationFault(line, used) === null ? used : null;
  return { line: calibration ? editLine(line, calibration.result.edits) : line, calibration };
}
