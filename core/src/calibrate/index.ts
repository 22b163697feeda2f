export { steadyWindow, type SteadyLimits, type SteadyState } from './steadyWindow.ts';
export { approachOf, pointHysteresis, type Hysteresis } from './approach.ts';
export { crossAnswers, type CrossAnswers, type Exposure, type TypedAnswer } from './crossAnswers.ts';
export { cleanAirLevel } from './cleanAirLevel.ts';
export { heatedElements } from './heatedElements.ts';
export {
  absorbanceAt,
  isInLight,
  judgeLamps,
  lampAtRest,
  lampOf,
  lampsOf,
  withLampLight,
  type LampJudgement,
} from './lampLight.ts';
export { steadyLimits, type SlopeEvidence } from './steadyLimits.ts';
export { captureUncertainty, fitPoint, type FitPoint } from './points.ts';
export { hasCorrection, withCorrection } from './withCorrection.ts';
export { FIT_GROUPS, FITS, fitsFor } from './fits/index.ts';
export type { FitKind } from './fits/fitKind.ts';
export { calibrationDue } from './calibrationDue.ts';
export { calibrationFault } from './calibrationFault.ts';
export { fitReach } from './fitReach.ts';
export { farFrom } from './farFrom.ts';
export { fitCalibration } from './fitCalibration.ts';
export { nextPoint, type NextPoint, type NextPointGoal } from './nextPoint.ts';
export { recommendFit, type FitRecommendation } from './recommendFit.ts';
export { predictionBand, type BandPoint } from './predictionBand.ts';
export { sampleStrength, type SampleShare, type SampleStrength } from './sampleStrength.ts';
export { errorAtPoint } from './errorAtPoint.ts';
export { judgeChecks, type CheckJudgement } from './judgeChecks.ts';
export { coverageFactor } from './coverageFactor.ts';
export { calibrationCovariance } from './calibrationCovariance.ts';
export { calibratedLine } from './calibratedLine.ts';
export { isBeyondPoints } from './isBeyondPoints.ts';
export { isUncertaintyKnown } from './isUncertaintyKnown.ts';
export { parameterDrift, type ParameterDrift } from './parameterDrift.ts';
export { driftSeries, type DriftSeries } from './driftSeries.ts';
export { calibrationDrift, type Drift } from './calibrationDrift.ts';
export { fitSixPosition, type AxesResult, type Rest } from './sixPosition.ts';
export { type SphereCoverage } from './sphereCoverage.ts';
export { sameFit } from './sameFit.ts';
export { evidenceInWords } from './guided/evidenceInWords.ts';
export { cloudCoverage, fitEllipsoid, type EllipsoidResult } from './ellipsoid.ts';
export { withNeutralAxes } from './neutralAxes.ts';
export { wantsAxes } from './guided/wantsAxes.ts';
export { GUIDED_FITS } from './guided/index.ts';
export { fitGuided, type GuidedFit } from './guided/guidedFit.ts';
export { createGathering, type Gathering } from './guided/gather.ts';
export { mergeGuided } from './guided/mergeGuided.ts';
export { dragAxis, dragMean, dragSign, shortDrags, type DragMean } from './guided/drags.ts';
export { nextCourse } from './guided/nextCourse.ts';
export { turnBetween } from './guided/landmark.ts';
export { miscount, rateRatio } from './guided/timeBase.ts';
export { acRms, type AcRms } from './acRms.ts';
export { acMiddle, type AcMiddle } from './acMiddle.ts';
export { fitPhaseTrim, type PhaseTrim } from './phaseTrim.ts';
export { findSlips, type SlipContext, type SlipExplanation } from './slips/findSlips.ts';
export type { SlipObservation } from './slips/slip.ts';
