import { slopeAtRest } from '../line/atRest.ts';
import type { CompiledLine } from '../line/compile.ts';
import type { SteadyLimits } from './steadyWindow.ts';

/**
 * Limits for a capture at this reading: drift over the window under a tenth of the tolerance, scatter under half of it,
 * turned into raw counts by the line's slope; never tighter than half a code of drift and two codes of scatter.
 */
export function steadyLimits(line: CompiledLine, raw: number, tolerance: number, windowS = 10): SteadyLimits {
  const slope = Math.abs(slopeAtRest(line, raw));
  const counts = Number.isFinite(slope) && slope > 0 ? tolerance / slope : 0;
  return { windowS, drift: Math.max(0.5, counts / 10), scatter: Math.max(2, counts / 2) };
}
