import { Type } from 'typebox';
import { firFilter, firResponse, smoothColumn, smoothingWeights } from '../filters/index.ts';
import { filterStage } from '../stage/filterStage.ts';
import { choice, whole } from '../stage/params.ts';
import type { PrepareContext } from '../stage/contract.ts';
import { emitTaps } from './tapsInC.ts';

interface SmoothingParams {
  width: number;
  degree: number;
  place: string;
  [name: string]: number | string;
}

/** Newest sample first. At the centre the reading comes half a window late; at the newest it is prompt but less smooth. */
function taps({ width, degree, place }: SmoothingParams, { sampleRateHz }: PrepareContext): Float64Array {
  const at = place === 'newest' ? width - 1 : (width - 1) / 2;
  return smoothingWeights(width, degree, 0, at, 1 / sampleRateHz).reverse();
}

export const smoothingPolynomial = filterStage<SmoothingParams>({
  kind: 'smoothing-polynomial',
  title: 'Smoothing polynomial (Savitzky–Golay)',
  summary: 'Fits a polynomial to the latest readings: keeps peaks better than a moving mean',
  params: Type.Object({
    width: whole('Window width', { min: 3, max: 501, unit: 'readings' }),
    degree: whole('Degree', { min: 0, max: 6 }),
    place: choice('Output at', ['centre', 'newest']),
  }),
  defaults: { width: 11, degree: 2, place: 'centre' },
  start: (params, context) => firFilter(taps(params, context), true),
  response: (params, context, frequencyHz) =>
    firResponse(taps(params, context), frequencyHz, context.sampleRateHz),
  zeroPhase: ({ width, degree }, { sampleRateHz }, x) => smoothColumn(x, width, degree, 0, 1 / sampleRateHz),
  emitC: (params, c, context) => emitTaps(taps(params, context), c),
});
