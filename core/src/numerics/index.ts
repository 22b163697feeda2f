export { studentTQuantile, normalQuantile, chiSquareQuantile, fQuantile } from './quantiles.ts';
export { logGamma, incompleteBeta, incompleteGamma } from './specialFunctions.ts';
export { lowerBound } from './lowerBound.ts';
export { mean, sampleSd, effectiveCount } from './statistics.ts';
export { fitPolynomial, type PolynomialFit } from './polynomialFit.ts';
export { gaussNewton, type GaussNewtonProblem, type GaussNewtonResult } from './gaussNewton.ts';
export { seededRandom, type Random } from './random.ts';
