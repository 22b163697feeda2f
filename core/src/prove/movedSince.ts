import { fitPoint } from '../calibrate/points.ts';
import { readingAtRest } from '../line/atRest.ts';
import type { CompiledLine } from '../line/compile.ts';
import type { Calibration, CalibrationPoint } from '../model/calibration.ts';

/** Share of a point's own uncertainty that a reading may have moved by: rounding, and constants that were kept in fewer digits. */
const UNMOVED = 0.1;

/**
 * How far the line has moved at the points of its calibration since that was made, in the reading's unit: a stage or a
 * constant that was changed, or a reference that was corrected. What the fit said of its constants then is not said of these.
 * @returns 0 where nothing has moved, and for a true-up without points of its own
 */
export function movedSince(
  line: CompiledLine,
  calibration: Calibration | null,
  points: readonly CalibrationPoint[],
): number {
  if (!calibration || line.sources.length !== 1) return 0;
  const unit = line.outputs[0]!.unit;
  let most = 0;
  for (const { pointId, after, u } of calibration.result.residuals) {
    const kept = points.find((p) => p.id === pointId);
    if (!kept || after === null) continue;
    const point = fitPoint(kept, unit);
    const moved = Math.abs(readingAtRest(line, point.raw) - point.reference - after);
    // Where it gives no number any more, it has moved as well.
    if (Number.isNaN(moved)) return Infinity;
    if (moved > UNMOVED * u) most = Math.max(most, moved);
  }
  return most;
}
