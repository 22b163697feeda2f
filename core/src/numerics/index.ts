export { studentTQuantile, normalQuantile, chiSquareQuantile, fQuantile } from './quantiles.ts';
export { chiSquareCdf, fUpperTail, normalCdf, studentTCdf, studentTwoSided } from './distributions.ts';
export { logGamma, incompleteBeta, incompleteGamma } from './specialFunctions.ts';
export { autocovariance, together } from './autocovariance.ts';
export { lowerBound } from './lowerBound.ts';
export { placeAmong } from './placeAmong.ts';
export { shortWay } from './shortWay.ts';
export { mean, median, sampleSd, effectiveCount, serialCorrelation } from './statistics.ts';
export { fitPolynomial, type PolynomialFit } from './polynomialFit.ts';
export { lineWithBothErrors, type BothErrorsLine } from './lineWithBothErrors.ts';
export { gaussNewton, type GaussNewtonProblem, type GaussNewtonResult } from './gaussNewton.ts';
export { interpolant, INTERPOLANTS, type Interpolant, type InterpolantKind } from './interpolation.ts';
export { effectiveDegreesOfFreedom } from './effectiveDegreesOfFreedom.ts';
export { findRoot } from './findRoot.ts';
export { welch, type Spectrum } from './welch.ts';
export { seededRandom, type Random } from './random.ts';
export {
  aliasHz,
  gateBeatsPeriodRpm,
  gateStepRpm,
  HEADROOM,
  periodStepRpm,
  rateForPeak,
  timingUncertainty,
  worstPeakFraction,
} from './samplingRate.ts';
