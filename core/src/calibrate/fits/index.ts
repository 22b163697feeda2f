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
    title: 'One part’s own value',
    fits: [seriesResistor, thermistorR0, cleanAirBaseline, loadResistor, amplifierGain, airTemperature],
  },
  {
    title: 'The reading, shifted and scaled',
    fits: [offsetOnly, gainOnly, gainAndOffset, lineBothAxes],
  },
  { title: 'The sensor’s own curve', fits: [absorbanceLine, powerLawFit, threeTermCurve] },
  { title: 'A smooth bend laid over it', fits: [polynomial2, polynomial3, polynomial4] },
  {
    title: 'Through every point',
    fits: [tableLinear, tablePchip, tableNatural, tableLagrange],
  },
];

export const FITS: readonly FitKind[] = FIT_GROUPS.flatMap(({ fits }) => fits);

/** The fits that make sense for a line: those whose stage it has. */
export function fitsFor(line: LineSpec): FitKind[] {
  return FITS.filter((fit) => line.stages.some((s) => !s.off && fit.needs.includes(s.kind)));
}
