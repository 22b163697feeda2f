import { UNITS, decimalsFor, printNumber, type UnitId } from '../units/index.ts';

export type VerdictState = 'pass' | 'fail' | 'not shown';

export interface Verdict {
  readonly state: VerdictState;
  readonly value: number;
  readonly uncertainty: number;
  readonly limit: number;
  /** What is to spare inside the limit after the uncertainty; negative when there is none. */
  readonly margin: number;
  readonly sentence: string;
}

/**
 * Judges an error against a tolerance with a guard band of its uncertainty (ISO 14253-1:2017, decision rule of full
 * guard bands): pass when |error| + U <= tolerance, fail when |error| - U > tolerance, otherwise not shown.
 * @param uncertainty expanded uncertainty of the error, k = 2
 */
export function guardBandVerdict(
  error: number,
  uncertainty: number,
  tolerance: number,
  unit: UnitId,
): Verdict {
  const size = Math.abs(error);
  const margin = tolerance - size - uncertainty;
  const base = { value: error, uncertainty, limit: tolerance, margin };
  if (!Number.isFinite(error) || !Number.isFinite(uncertainty)) {
    return {
      ...base,
      state: 'not shown',
      sentence: 'There is no reading to judge. Check the line for an invalid reading.',
    };
  }
  const decimals = Math.max(decimalsFor(uncertainty), decimalsFor(tolerance) - 1);
  const number = (v: number) => printNumber(v, decimals);
  const symbol = UNITS[unit].symbol;
  const side = number(size) === number(0) ? ' error' : error > 0 ? ' too high' : ' too low';
  const reads = `${number(size)} ${symbol}${side}, uncertainty ±${number(uncertainty)}.`;
  if (margin >= 0) {
    return {
      ...base,
      state: 'pass',
      sentence: `${reads} Within ±${tolerance}, with ${number(margin)} to spare.`,
    };
  }
  if (size - uncertainty > tolerance) {
    return {
      ...base,
      state: 'fail',
      sentence: `${reads} Outside ±${tolerance}, by at least ${number(size - uncertainty - tolerance)}.`,
    };
  }
  return {
    ...base,
    state: 'not shown',
    sentence: `${reads} Neither inside nor outside ±${tolerance} for certain: ${uncertainty > tolerance ? 'the comparison is not accurate enough' : 'use a better reference or capture more readings'}.`,
  };
}
