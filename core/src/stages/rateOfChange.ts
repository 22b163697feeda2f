import { Type } from 'typebox';
import { firFilter, smoothingWeights } from '../filters/index.ts';
import { filterStage } from '../stage/filterStage.ts';
import { whole } from '../stage/params.ts';
import type { PrepareContext } from '../stage/contract.ts';
import { ratePerSecondUnit } from '../units/index.ts';
import { emitTaps } from './tapsInC.ts';

/** Slope of the straight line through the last `width` readings, per second, from weights that are newest first. */
const taps = ({ width }: { width: number }, { sampleRateHz }: PrepareContext) =>
  smoothingWeights(width, 1, 1, (width - 1) / 2, 1 / sampleRateHz).reverse();

export const rateOfChange = filterStage<{ width: number }>({
  kind: 'rate-of-change',
  title: 'Rate of change',
  summary: 'Slope of a straight line through the latest readings, per second',
  params: Type.Object({ width: whole('Window width', { min: 2, max: 1001, unit: 'readings' }) }),
  defaults: { width: 11 },
  atRest: 'zero',
  takes:
    'a quantity with a rate of change (temperature, length, speed, force, pressure, angle, counts, voltage)',
  gives: (_params, unit) => ratePerSecondUnit(unit) ?? null,
  start: (params, context) => firFilter(taps(params, context), true),
  emitC: (params, c, context) => emitTaps(taps(params, context), c),
});
