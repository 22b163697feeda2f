export {
  combineBudget,
  DIVISORS,
  type BudgetLine,
  type BudgetResult,
  type Distribution,
} from './errorBudget.ts';
export { monteCarlo, type MonteCarloInput, type MonteCarloResult } from './monteCarlo.ts';
export { seenInPoints, pooledNoise, type SeenInPoints } from './seenInPoints.ts';
export { budgetAnswer } from './budgetAnswer.ts';
export { lineBudget, type ReadingBudget } from './lineBudget.ts';
export type { ReadingNow } from './budgetInput.ts';
export { keptOfEvent, type KeptOfEvent } from './keptOfEvent.ts';
export { asBought, type SensorOwn } from './sensorOwn.ts';
export { findStreamFaults } from './findStreamFaults.ts';
export { neededRateHz } from './neededRate.ts';
export { byWeight, proofSummary, type NextThing, type ProofSummary } from './proofSummary.ts';
export { proveChannel, type Claim, type Proof, type ProofInput } from './claims.ts';
export { accuracy, type AccuracyReading, type AccuracyResult } from './accuracy.ts';
export { agreement, type AgreementResult } from './agreement.ts';
export {
  counting,
  caughtShare,
  falseCounts,
  type CountingResult,
  type CountTrial,
  type FalseCounts,
} from './counting.ts';
export {
  eventCapture,
  foldedTones,
  sampling,
  type EventCapture,
  type FoldedTone,
  type SamplingResult,
} from './sampling.ts';
export { noise, type NoiseResult } from './noise.ts';
export { allan, bestAveraging, type AllanPoint } from './allan.ts';
export { repeatStudy, type RepeatReading, type RepeatStudy } from './repeatStudy.ts';
export { beforeAfter, runsNeeded, type BeforeAfter } from './beforeAfter.ts';
export { shownWorth, type ShownInput } from './shownWorth.ts';
