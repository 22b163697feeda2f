import { pointHysteresis } from '../calibrate/approach.ts';
import type { CompiledLine } from '../line/compile.ts';
import type { CalibrationPoint } from '../model/calibration.ts';
import { UNITS } from '../units/index.ts';

/** What the kept points of a channel tell of its readings beside what is fitted to them. */
export interface SeenInPoints {
  /** Standard deviation of single raw readings; null when it was never measured. */
  readonly noiseRaw: number | null;
  /** Half of what readings differ by from the one side and from the other, in the reading's unit; 0 where it was not seen. */
  readonly hysteresis: number;
}

/** @param points those that count @param line with its calibration */
export function seenInPoints(points: readonly CalibrationPoint[], line: CompiledLine): SeenInPoints {
  return { noiseRaw: pooledNoise(points), hysteresis: hysteresisSeen(points, line) };
}

/** A difference that the readings' own scatter explains is none. */
function hysteresisSeen(points: readonly CalibrationPoint[], line: CompiledLine): number {
  const { dimension } = UNITS[line.outputs[0]!.unit];
  // Points of the channel that this one goes on from speak of another quantity.
  const own = points.filter((p) => UNITS[p.worth.unit].dimension === dimension);
  const seen = line.sources.length === 1 ? pointHysteresis(own, line) : null;
  return seen && Math.abs(seen.difference) > seen.uncertainty ? Math.abs(seen.difference) / 2 : 0;
}

/** Pooled standard deviation of single raw readings over captures; null without any. */
export function pooledNoise(points: readonly CalibrationPoint[]): number | null {
  const freedom = points.reduce((s, p) => s + p.capture.n - 1, 0);
  if (freedom < 1) return null;
  return Math.sqrt(points.reduce((s, p) => s + (p.capture.n - 1) * p.capture.sd ** 2, 0) / freedom);
}
