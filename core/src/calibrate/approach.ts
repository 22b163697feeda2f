import { readingAtRest, slopeAtRest } from '../line/atRest.ts';
import type { CompiledLine } from '../line/compile.ts';
import type { Approach, CalibrationPoint } from '../model/calibration.ts';
import { lowerBound, mean } from '../numerics/index.ts';
import { fitPoint } from './points.ts';

/** So long on one side without a break is where it came from, however far it was on the other before, s. */
const STOOD_S = 4;

/**
 * From which side a reading came to its steady window: by the last side on which it stood for a while, so that a swing on
 * the way is none, nor a step of a staircase before the last one; else by the readings furthest off in the time before.
 * @param steadyForS how far back from the newest reading it is steady
 * @param lookBackS how long before that is looked at
 * @returns null when it had hardly moved: by less than five standard deviations of the window
 */
export function approachOf(
  line: CompiledLine,
  times: ArrayLike<number>,
  raw: ArrayLike<number>,
  steadyForS: number,
  lookBackS = 120,
): Approach | null {
  const n = times.length;
  if (n === 0) return null;
  const newest = times[n - 1]!;
  const from = lowerBound(times, newest - steadyForS);
  const before = lowerBound(times, newest - steadyForS - lookBackS);
  const still = Array.from({ length: n - from }, (_, i) => raw[from + i]!).filter(Number.isFinite);
  if (still.length < 2 || before >= from) return null;
  const middle = mean(still);
  const sd = Math.sqrt(still.reduce((s, v) => s + (v - middle) ** 2, 0) / (still.length - 1));
  const least = Math.max(5 * sd, 2);
  let furthest = 0;
  let side = 0;
  let sinceS = newest;
  for (let i = from - 1; i >= before; i--) {
    const off = raw[i]! - middle;
    if (Math.abs(off) > Math.abs(furthest)) furthest = off;
    const there = Math.abs(off) > least ? Math.sign(off) : 0;
    if (there !== side) {
      side = there;
      sinceS = times[i]!;
    } else if (side !== 0 && sinceS - times[i]! >= STOOD_S) {
      furthest = off;
      break;
    }
  }
  if (!(Math.abs(furthest) > least)) return null;
  // A thermistor's counts fall as it warms: above in counts may be below in the reading.
  const slope = line.sources.length === 1 ? slopeAtRest(line, middle) : 1;
  return furthest * (slope < 0 ? -1 : 1) < 0 ? 'from below' : 'from above';
}

export interface Hysteresis {
  /** Reading when come from above less that from below, at the reference where they differ most. */
  readonly difference: number;
  /** Expanded uncertainty (k = 2) of that difference. */
  readonly uncertainty: number;
  readonly reference: number;
}

/**
 * How far readings at one reference differ by the side they came from.
 * References count as one when they lie closer than their own uncertainties; what they differ by is taken off.
 * @returns null unless some reference was approached from both sides
 */
export function pointHysteresis(points: readonly CalibrationPoint[], line: CompiledLine): Hysteresis | null {
  const unit = line.outputs[0]!.unit;
  const counted = points
    .filter((p) => p.excluded === null && p.capture.approach !== undefined)
    .map((p) => {
      const point = fitPoint(p, unit);
      const slope = Math.abs(slopeAtRest(line, point.raw));
      return {
        approach: p.capture.approach!,
        reference: point.reference,
        near: 4 * point.uReference,
        error: readingAtRest(line, point.raw) - point.reference,
        // The same reference both times: only the readings' own scatter is left.
        u: (Number.isFinite(slope) ? slope : 0) * point.uRaw,
      };
    });
  let worst: Hysteresis | null = null;
  for (const up of counted.filter((p) => p.approach === 'from below'))
    for (const down of counted.filter((p) => p.approach === 'from above')) {
      if (Math.abs(up.reference - down.reference) > Math.max(up.near, down.near)) continue;
      const difference = down.error - up.error;
      if (!worst || Math.abs(difference) > Math.abs(worst.difference))
        worst = { difference, uncertainty: 2 * Math.hypot(up.u, down.u), reference: up.reference };
    }
  return worst;
}
