import type { CompiledLine } from '../line/compile.ts';
import { guardBandVerdict, type Verdict } from '../verdict/guardBand.ts';
import type { UnitId } from '../units/index.ts';
import { errorAtPoint, type ErrorAtPoint } from './errorAtPoint.ts';
import type { FitPoint } from './points.ts';

export interface CheckJudgement extends ErrorAtPoint {
  readonly pointId: string;
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
    const found = errorAtPoint(line, point);
    const verdict = guardBandVerdict(found.error, found.uncertainty, tolerance, unit);
    return { ...found, pointId: point.id, verdict };
  });
}
