import { Type } from 'typebox';
import { notchSection } from '../filters/index.ts';
import { filterStage } from '../stage/filterStage.ts';
import { number } from '../stage/params.ts';
import { sectionParts } from './sectionStage.ts';

export const notch = filterStage<{ notchHz: number; q: number }>({
  kind: 'notch',
  title: 'Notch filter',
  summary: 'Removes one frequency, such as mains hum',
  params: Type.Object({
    notchHz: number('Frequency', { above: 0, max: 1e6, unit: 'Hz' }),
    q: number('Q factor (frequency ÷ bandwidth)', { above: 0, max: 1000 }),
  }),
  defaults: { notchHz: 2, q: 10 },
  ...sectionParts(({ notchHz, q }, { sampleRateHz }) => [notchSection(notchHz, q, sampleRateHz)]),
});
