import type { FitResult } from '../model/calibration.ts';
import { studentTQuantile } from '../numerics/index.ts';

/**
 * By how much a standard uncertainty from a fit is multiplied for 95 %: a covariance widened by the scatter of the points is
 * only known as well as that scatter, one from known uncertainties alone is normal.
 */
export const coverageFactor = (result: FitResult): number =>
  studentTQuantile(0.975, widthDegreesOfFreedom(result));

/**
 * Degrees of freedom that what a fit leaves over is known with: what its points show of bends is an allowance, made so that it
 * holds as it is; errors of points left out are few numbers that scatter.
 */
export const leftOverDegreesOfFreedom = (result: FitResult): number =>
  (result.misfit ?? null) !== null
    ? Infinity
    : Math.max(1, result.degreesOfFreedom || result.residuals.length - 2);

/** Degrees of freedom that a fit's uncertainties are known with; Infinity where they are those that were stated. */
export const widthDegreesOfFreedom = (result: FitResult): number =>
  Math.max(1, result.uDegreesOfFreedom ?? (result.birge > 1 ? result.degreesOfFreedom : Infinity));
