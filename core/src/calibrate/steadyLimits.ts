import { slopeAtRest } from '../line/atRest.ts';
import type { CompiledLine } from '../line/compile.ts';
import { invertLine } from '../line/invert.ts';
import { LineError } from '../stage/contract.ts';
import type { SteadyLimits } from './steadyWindow.ts';

/** What is known of a channel that may not be trued up yet. */
export interface SlopeEvidence {
  /** Whether the line is of a calibration: then its slope is the true one. */
  readonly isTrued: boolean;
  /** Points so far, raw against the reading's unit. */
  readonly points: readonly { readonly raw: number; readonly reference: number }[];
  /** What the brief asks for, in the reading's unit; null without one. */
  readonly range: readonly [low: number, high: number] | null;
  /** The converter's last code; infinite where there is none. */
  readonly lastCode: number;
}

/** Less of the converter's codes than this is no line for the range that is asked for: nobody has fitted it yet. */
const LEAST_SHARE = 0.04;

/**
 * Limits for a capture at this reading: drift over the window under a tenth of the tolerance, scatter under half of it,
 * turned into raw counts; never tighter than half a code of drift and two codes of scatter. By the slope of the fit in hand,
 * or of the points so far, or of the line as bought where that can be, or of the range as a whole.
 */
export function steadyLimits(
  line: CompiledLine,
  raw: number,
  tolerance: number,
  evidence: SlopeEvidence | null = null,
  windowS = 10,
): SteadyLimits {
  const slope = Math.abs(evidence ? slopeInHand(line, raw, evidence) : slopeAtRest(line, raw));
  const counts = Number.isFinite(slope) && slope > 0 ? tolerance / slope : 0;
  return { windowS, drift: Math.max(0.5, counts / 10), scatter: Math.max(2, counts / 2) };
}

function slopeInHand(line: CompiledLine, raw: number, { isTrued, points, range, lastCode }: SlopeEvidence) {
  if (isTrued) return slopeAtRest(line, raw);
  const byRaw = points.toSorted((a, b) => a.raw - b.raw);
  const [first, last] = [byRaw[0], byRaw.at(-1)];
  if (first && last && last.raw !== first.raw && last.reference !== first.reference)
    return (last.reference - first.reference) / (last.raw - first.raw);
  if (!range || !Number.isFinite(lastCode) || fits(line, range, lastCode)) return slopeAtRest(line, raw);
  return (range[1] - range[0]) / lastCode;
}

/** Whether the range lies within the converter's codes by this line, and takes more than a few of them. */
function fits(line: CompiledLine, range: readonly [number, number], lastCode: number): boolean {
  try {
    const [a, b] = range.map((reading) => invertLine(line, reading)[0]!) as [number, number];
    const inside = Math.min(a, b) < lastCode && Math.max(a, b) > 0;
    return inside && Math.abs(b - a) >= LEAST_SHARE * lastCode;
  } catch (error) {
    if (error instanceof LineError || error instanceof RangeError) return true;
    throw error;
  }
}
