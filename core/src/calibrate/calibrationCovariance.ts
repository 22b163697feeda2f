import type { CalibrationCovariance } from '../line/uncertainty.ts';
import type { FitResult } from '../model/calibration.ts';

/** What the uncertainty arithmetic needs of a fit. Too few points to leave one out: the largest residual stands in. */
export function calibrationCovariance(result: FitResult): CalibrationCovariance {
  const largest = Math.max(0, ...result.residuals.map((r) => Math.abs(r.after ?? 0)));
  return {
    parameters: result.parameters.map(({ stageId, param }) => ({ stageId, param })),
    covariance: result.covariance,
    validRaw: result.validRaw,
    leftOver: result.leaveOneOutRms ?? largest,
  };
}
