export { guardBandVerdict, type Verdict, type VerdictState } from './verdict.ts';
export {
  combineBudget,
  DIVISORS,
  type BudgetLine,
  type BudgetResult,
  type Distribution,
} from './errorBudget.ts';
export { lineBudget, pooledNoise, type ReadingBudget } from './lineBudget.ts';
export { proveChannel, neededRateHz, type Claim, type Proof } from './claims.ts';
