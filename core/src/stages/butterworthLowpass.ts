import { Type } from 'typebox';
import { butterworthSections } from '../filters/index.ts';
import { filterStage } from '../line/filterStage.ts';
import { number, whole } from '../line/params.ts';
import { sectionParts } from './sectionStage.ts';

export const butterworthLowpass = filterStage<{ order: number; cutoffHz: number }>({
  kind: 'butterworth-lowpass',
  title: 'Butterworth low-pass',
  summary: 'Keeps slow changes, cuts what is faster than the cut-off',
  params: Type.Object({
    order: whole('Order', { min: 1, max: 12 }),
    cutoffHz: number('Cut-off (−3 dB)', { above: 0, max: 1e6, unit: 'Hz' }),
  }),
  defaults: { order: 2, cutoffHz: 0.5 },
  ...sectionParts(({ order, cutoffHz }, { sampleRateHz }) =>
    butterworthSections('lowpass', order, cutoffHz, sampleRateHz),
  ),
});
