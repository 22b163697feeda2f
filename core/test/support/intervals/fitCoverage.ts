import { coverageFactor, predictionBand } from '../../../src/calibrate/index.ts';
import { compileLine, editLine, invertLine, paramAt, readingAtRest } from '../../../src/line/index.ts';
import { seededRandom } from '../../../src/numerics/index.ts';
import type { FitPoint } from '../../../src/calibrate/index.ts';
import { CONTEXT, fitOf, good, type FitCase } from './fitCases.ts';
import { shownHalf } from './shownHalf.ts';

export interface FitCoverage {
  /** Share of hidden constants inside their stated 95 %; null where the fit has none that could be compared. */
  readonly constants: number | null;
  /** Share of places between the points where the band holds the true value. */
  readonly band: number;
  /**
   * The same for what a maker is shown of the reading of a bent sensor, where the shelf says that a true-up leaves of the part
   * as much as it bends; null of straight ones.
   */
  readonly shown: number | null;
  /** Mean width of the band beside one made with the true shape and the true uncertainties. */
  readonly width: number;
}

/** Bend at its highest, in standard uncertainties of a point, on top of what the fit can follow. */
const BEND = 1.5;
/** The band of each fit is looked at in so many places, one in each of as many equal parts of the range. */
const PLACES = 8;

/**
 * Trues up a hidden line again and again, each time with other errors of references and readings.
 * @param isBent whether the sensor bends between the points by more than the line says
 */
export function fitCoverage(fitCase: FitCase, trials: number, isBent: boolean): FitCoverage {
  const { fit, as, edits, at, uReference, uRaw } = fitCase;
  const spec = editLine(as, edits);
  const truth = compileLine(spec, CONTEXT);
  const [low, high] = [Math.min(...at), Math.max(...at)];
  const uAt = (value: number) => {
    const raw = invertLine(truth, value)[0]!;
    const slope = (readingAtRest(truth, raw + uRaw) - readingAtRest(truth, raw - uRaw)) / (2 * uRaw);
    return Math.hypot(uReference, slope * uRaw);
  };
  const size = isBent ? BEND * uAt((low + high) / 2) : 0;
  /** The raw value that a sensor gives, bent or not. */
  const rawOf = (value: number) => {
    const s = (value - low) / (high - low);
    return invertLine(truth, value + size * 4 * s * (1 - s))[0]!;
  };
  let constants = 0;
  let judged = 0;
  let band = 0;
  let width = 0;
  let ideal = 0;
  let shown = 0;
  for (let seed = 1; seed <= trials; seed++) {
    const random = seededRandom(seed);
    const points: FitPoint[] = at.map((value, i) => ({
      id: `p${i}`,
      raw: rawOf(value) + uRaw * random.normal(),
      uRaw,
      reference: value + uReference * random.normal(),
      uReference,
    }));
    const result = good(fitOf(fit, as, points));
    const k = coverageFactor(result);
    if (!isBent && !fit.startsWith('table'))
      for (const p of result.parameters) {
        const params = spec.stages.find((s) => s.id === p.stageId)!.params;
        const hidden = paramAt(params, p.param);
        if (!Number.isFinite(hidden)) continue;
        judged++;
        if (Math.abs(p.value - hidden) <= k * p.u) constants++;
      }
    const values = Array.from(
      { length: PLACES },
      (_, i) => low + ((high - low) * (i + random.uniform())) / PLACES,
    );
    predictionBand(as, CONTEXT, result, values.map(rawOf), 0).forEach((there, i) => {
      const off = Math.abs(there.reading - values[i]!);
      if (off <= there.prediction) band += 1 / PLACES;
      if (isBent && i === seed % PLACES && off <= shownHalf(as, result, there.reading, size)) shown++;
      width += there.prediction;
      ideal += (1.96 * there.confidence) / (k * result.birge);
    });
  }
  return {
    constants: judged > 0 ? constants / judged : null,
    band: band / trials,
    shown: isBent ? shown / trials : null,
    width: width / ideal,
  };
}
