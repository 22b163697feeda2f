import { compileLine } from '../line/compile.ts';
import { editLine } from '../line/edits.ts';
import type { PrepareContext } from '../stage/contract.ts';
import { leftOverAt } from '../line/leftOver.ts';
import { uncertaintyAlong } from '../line/uncertainty.ts';
import { effectiveDegreesOfFreedom, studentTQuantile } from '../numerics/index.ts';
import type { FitResult } from '../model/calibration.ts';
import type { LineSpec } from '../model/line.ts';
import { calibrationCovariance } from './calibrationCovariance.ts';
import { coverageFactor, leftOverDegreesOfFreedom, widthDegreesOfFreedom } from './coverageFactor.ts';

export interface BandPoint {
  readonly raw: number;
  readonly reading: number;
  /** Half-width at 95 % of where the fitted line itself lies. */
  readonly confidence: number;
  /** Half-width at 95 % of where a new single reading lies: what the fit left over and noise counted in. */
  readonly prediction: number;
  /** Outside the points: a guess, with the as-bought uncertainties of the parts added. */
  readonly extrapolated: boolean;
}

/**
 * The band about a fitted line at raw values. Student's t with the degrees of freedom of the whole, as in the budget
 * (`prove/lineBudget.ts`).
 * @param line the line as bought, which the fit was made from
 * @param noiseRaw standard deviation of single raw readings
 */
export function predictionBand(
  line: LineSpec,
  context: PrepareContext,
  result: FitResult,
  raws: readonly number[],
  noiseRaw: number,
): BandPoint[] {
  const compiled = compileLine(editLine(line, result.edits), context);
  const covariance = calibrationCovariance(result);
  const t = coverageFactor(result);
  const [ofConstants, ofLeftOver] = [widthDegreesOfFreedom(result), leftOverDegreesOfFreedom(result)];
  const constantsAt = uncertaintyAlong(compiled, { ...covariance, leftOver: 0 });
  return raws.map((raw) => {
    const { value, noise, systematic: constants } = constantsAt(raw, noiseRaw).at(-1)!;
    const leftOver = leftOverAt(covariance.leftOver, value);
    const combined = Math.hypot(constants, leftOver, noise);
    const effective = effectiveDegreesOfFreedom(combined ** 2, [
      { u: constants, degreesOfFreedom: ofConstants },
      { u: leftOver, degreesOfFreedom: ofLeftOver },
    ]);
    return {
      raw,
      reading: value,
      confidence: t * constants,
      prediction: studentTQuantile(0.975, Math.max(1, effective)) * combined,
      extrapolated: raw < result.validRaw[0] || raw > result.validRaw[1],
    };
  });
}
