export { guardBandVerdict, type Verdict, type VerdictState } from './guardBand.ts';
