import { readingAtRest, slopeAtRest } from '../line/atRest.ts';
import { compileLine } from '../line/compile.ts';
import { editLine } from '../line/edits.ts';
import type { PrepareContext } from '../stage/contract.ts';
import { lineUncertainty } from '../line/uncertainty.ts';
import type { Capture, FitResult } from '../model/calibration.ts';
import type { LineSpec } from '../model/line.ts';
import { studentTQuantile } from '../numerics/index.ts';
import { dilutionShare, type DilutionStep } from '../references/index.ts';
import { calibrationCovariance } from './calibrationCovariance.ts';
import { coverageFactor } from './coverageFactor.ts';
import { captureUncertainty } from './points.ts';

export interface SampleStrength {
  /** In the glass, and in what the glass was filled from; in the reading's unit, uncertainties at 95 %. */
  readonly inGlass: { readonly value: number; readonly uncertainty: number };
  readonly undiluted: { readonly value: number; readonly uncertainty: number };
  /** What the undiluted uncertainty is made of, each at 95 %, the largest first. */
  readonly shares: readonly { readonly from: SampleShare; readonly uncertainty: number }[];
  /** Outside what the standards covered the answer is a guess, until it is diluted or a standard is added there. */
  readonly outside: 'stronger' | 'weaker' | null;
  /** Too weak to be told from a glass without any. */
  readonly indistinct: boolean;
}

export type SampleShare =
  'calibration with the standards' | 'stock solution' | 'scatter of the readings' | 'dilution';

/**
 * How strong a sample is by a calibrated line that ends in a concentration, with its interval at 95 %. Counted in: the
 * constants and what the fit left over, the scatter of the sample's own readings, the vessels of its dilution, and the
 * stock, whose error all standards share, so that it does not average away with their number.
 * First order (JCGM 100:2008, 5.1.2).
 * @param line the line as bought, which the fit was made from
 * @param stockPercent tolerance of the stock that the standards were made from, in per cent (rectangular)
 * @param steps how the sample was diluted before it came into the glass; none when it was not
 * @returns null when the raw mean has no reading: saturated, or dark
 * @throws {RangeError} when a step takes more than it is made up to
 */
export function sampleStrength(
  line: LineSpec,
  context: PrepareContext,
  result: FitResult,
  capture: Capture,
  stockPercent: number,
  steps: readonly DilutionStep[],
): SampleStrength | null {
  const compiled = compileLine(editLine(line, result.edits), context);
  const value = readingAtRest(compiled, capture.mean);
  if (!Number.isFinite(value)) return null;
  const { share, uRelative } = dilutionShare(steps);
  const fit = lineUncertainty(compiled, capture.mean, 0, calibrationCovariance(result)).at(-1)!.systematic;
  const t = coverageFactor(result);
  const z = studentTQuantile(0.975, Infinity);
  const glass: [SampleShare, number][] = [
    ['calibration with the standards', t * fit],
    ['stock solution', z * Math.abs(value) * (stockPercent / 100 / Math.sqrt(3))],
    [
      'scatter of the readings',
      z * Math.abs(slopeAtRest(compiled, capture.mean)) * captureUncertainty(capture),
    ],
  ];
  const inGlass = { value, uncertainty: Math.hypot(...glass.map(([, u]) => u)) };
  const all: [SampleShare, number][] = [...glass, ['dilution', z * Math.abs(value) * uRelative]];
  const [low, high] = result.validReading;
  return {
    inGlass,
    undiluted: { value: value / share, uncertainty: Math.hypot(...all.map(([, u]) => u)) / share },
    shares: all
      .map(([from, u]) => ({ from, uncertainty: u / share }))
      .filter((s) => s.uncertainty > 0)
      .toSorted((a, b) => b.uncertainty - a.uncertainty),
    outside:
      value > high + inGlass.uncertainty ? 'stronger' : value < low - inGlass.uncertainty ? 'weaker' : null,
    indistinct: value <= inGlass.uncertainty,
  };
}
