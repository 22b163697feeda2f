import { slopeAtRest, readingAtRest } from '../line/atRest.ts';
import type { CompiledLine } from '../line/compile.ts';
import { guardBandVerdict, type Verdict } from '../verdict/guardBand.ts';
import type { UnitId } from '../units/index.ts';
import type { FitPoint } from './points.ts';

export interface CheckJudgement {
  readonly pointId: string;
  readonly shown: number;
  readonly error: number;
  /** Expanded uncertainty (k = 2) of the comparison: reference and captured mean. */
  readonly uncertainty: number;
  readonly verdict: Verdict;
}

/** Judges points that were kept out of the fit by the line as it now stands. */
export function judgeChecks(
  line: CompiledLine,
  checks: readonly FitPoint[],
  tolerance: number,
  unit: UnitId,
): CheckJudgement[] {
  return checks.map((point) => {
    const shown = readingAtRest(line, point.raw);
    const error = shown - point.reference;
    const uncertainty = 2 * Math.hypot(point.uReference, slopeAtRest(line, point.raw) * point.uRaw);
    return {
      pointId: point.id,
      shown,
      error,
      uncertainty,
      verdict: guardBandVerdict(error, uncertainty, tolerance, unit),
    };
  });
}
