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

/** Every fit, simplest first. A new fit is one file and one line here. */
export const FITS: readonly FitKind[] = [
  seriesResistor,
  thermistorR0,
  cleanAirBaseline,
  loadResistor,
  amplifierGain,
  airTemperature,
  offsetOnly,
  gainOnly,
  gainAndOffset,
  lineBothAxes,
  absorbanceLine,
  powerLawFit,
  threeTermCurve,
  polynomial2,
  polynomial3,
  polynomial4,
  tableLinear,
  tablePchip,
  tableNatural,
  tableLagrange,
];

/** The fits that make sense for a line: those whose stage it has. */
export function fitsFor(line: LineSpec): FitKind[] {
  return FITS.filter((fit) => line.stages.some((s) => !s.off && fit.needs.includes(s.kind)));
}
