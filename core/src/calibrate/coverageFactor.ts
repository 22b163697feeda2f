import type { FitResult } from '../model/calibration.ts';
import { studentTQuantile } from '../numerics/index.ts';

/**
 * By how much a standard uncertainty from a fit is multiplied for 95 %: a covariance widened by the scatter of the points is
 * only known as well as that scatter, one from known uncertainties alone is normal.
 */
export const coverageFactor = ({ birge, degreesOfFreedom }: FitResult): number =>
  studentTQuantile(0.975, birge > 1 ? Math.max(1, degreesOfFreedom) : Infinity);
