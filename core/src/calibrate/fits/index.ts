import type { FitKind } from './fitKind.ts';
import { gainAndOffset } from './gainAndOffset.ts';
import { seriesResistor } from './seriesResistor.ts';
import { threeTermCurve } from './threeTermCurve.ts';

/** Every fit, simplest first. A new fit is one file and one line here. */
export const FITS: readonly FitKind[] = [seriesResistor, gainAndOffset, threeTermCurve];
