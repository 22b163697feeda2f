import { Type } from 'typebox';
import { butterworthSections } from '../filters/index.ts';
import { filterStage } from '../line/filterStage.ts';
import { number, whole } from '../line/params.ts';
import { sectionParts } from './sectionStage.ts';

export const butterworthHighpass = filterStage<{ order: number; cutoffHz: number }>({
  kind: 'butterworth-highpass',
  title: 'Butterworth high-pass',
  summary: 'Takes rest and wander away, keeps what is faster than the cut-off',
  params: Type.Object({
    order: whole('Order', { min: 1, max: 12 }),
    cutoffHz: number('Cut-off (−3 dB)', { above: 0, max: 1e6, unit: 'Hz' }),
  }),
  defaults: { order: 2, cutoffHz: 0.5 },
  atRest: 'zero',
  ...sectionParts(({ order, cutoffHz }, { sampleRateHz }) =>
    butterworthSections('highpass', order, cutoffHz, sampleRateHz),
  ),
});
