import type { LineSpec } from '../../model/line.ts';
import { absorbanceLine } from './absorbanceLine.ts';
import type { FitKind } from './fitKind.ts';
import { gainAndOffset, gainOnly, offsetOnly } from './gainAndOffset.ts';
import { lineBothAxes } from './lineBothAxes.ts';
import { polynomial2, polynomial3, polynomial4 } from './polynomialCorrection.ts';
import { powerLawFit } from './powerLaw.ts';
import { tableLagrange, tableLinear, tableNatural, tablePchip } from './tableCorrection.ts';
import { threeTermCurve } from './threeTermCurve.ts';
import {
  airTemperature,
  amplifierGain,
  cleanAirBaseline,
  loadResistor,
  seriesResistor,
  thermistorR0,
} from './trims.ts';

interface FitGroup {
  readonly title: string;
  readonly fits: readonly FitKind[];
}

/** Every fit, simplest first, under what it finds. A new fit is one file and one line here. */
export const FIT_GROUPS: readonly FitGroup[] = [
  {
    title: 'Correct one component value',
    fits: [seriesResistor, thermistorR0, cleanAirBaseline, loadResistor, amplifierGain, airTemperature],
  },
  {
    title: 'Shift and scale the reading',
    fits: [offsetOnly, gainOnly, gainAndOffset, lineBothAxes],
  },
  { title: 'Fit the sensor’s curve', fits: [absorbanceLine, powerLawFit, threeTermCurve] },
  { title: 'Add a smooth correction curve', fits: [polynomial2, polynomial3, polynomial4] },
  {
    title: 'Pass through every point',
    fits: [tableLinear, tablePchip, tableNatural, tableLagrange],
  },
];

export const FITS: readonly FitKind[] = FIT_GROUPS.flatMap(({ fits }) => fits);

/** The fits that make sense for a line: those whose stage it has. */
export function fitsFor(line: LineSpec): FitKind[] {
  return FITS.filter((fit) => line.stages.some((s) => !s.off && fit.needs.includes(s.kind)));
}
