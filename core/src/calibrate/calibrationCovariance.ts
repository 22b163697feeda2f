import type { CalibrationCovariance } from '../line/uncertainty.ts';
import type { FitResult } from '../model/calibration.ts';

/**
 * What the uncertainty arithmetic needs of a fit. Where its points cannot tell how far its shape misses, as of a curve through
 * all of them, the errors of points left out stand in, and where there are too few even for that, the largest residual.
 * @param stages how many of the first stages of the line were calibrated
 */
export function calibrationCovariance(result: FitResult, stages = Infinity): CalibrationCovariance {
  const largest = Math.max(0, ...result.residuals.map((r) => Math.abs(r.after ?? 0)));
  return {
    parameters: result.parameters.map(({ stageId, param }) => ({ stageId, param })),
    covariance: result.covariance,
    validRaw: result.validRaw,
    leftOver: result.misfit ?? result.leaveOneOutRms ?? largest,
    stages,
  };
}
