import type { CalibrationPoint, Capture } from '../model/calibration.ts';
import { sharedReference } from './sharedReferences.ts';
import { convertDifference, convertUnit, type UnitId } from '../units/index.ts';

/** A captured point as the fits take it: all uncertainties are standard uncertainties. */
export interface FitPoint {
  readonly id: string;
  readonly raw: number;
  readonly uRaw: number;
  /** In the unit of the reading. */
  readonly reference: number;
  readonly uReference: number;
  /** Points with the same word here share what their reference is wrong by; none for one that stands for itself. */
  readonly shares?: string | null | undefined;
}

/**
 * Standard uncertainty of a captured mean: sd over the root of the effective number of readings. Readings that scatter by
 * less than half a code do not average away the rounding, so one code over root twelve is added then.
 */
export function captureUncertainty(capture: Capture): number {
  const rounding = capture.sd < 0.5 ? 1 / Math.sqrt(12) : 0;
  return Math.hypot(capture.sd / Math.sqrt(capture.nEffective), rounding);
}

/** A stored point in the unit of the reading. */
export function fitPoint(point: CalibrationPoint, unit: UnitId): FitPoint {
  return {
    id: point.id,
    raw: point.capture.mean,
    uRaw: captureUncertainty(point.capture),
    reference: convertUnit(point.worth.value, point.worth.unit, unit),
    uReference: convertDifference(point.worth.uncertainty, point.worth.unit, unit) / 2,
    shares: sharedReference(point),
  };
}
