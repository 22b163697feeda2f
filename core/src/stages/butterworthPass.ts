import { Type } from 'typebox';
import { butterworthSections } from '../filters/index.ts';
import { filterStage } from '../stage/filterStage.ts';
import { number, whole } from '../stage/params.ts';
import { sectionParts } from './sectionStage.ts';

interface Pass {
  order: number;
  cutoffHz: number;
  [name: string]: number;
}

const pass = (kind: 'lowpass' | 'highpass', title: string, summary: string, atRest: 'passes' | 'zero') =>
  filterStage<Pass>({
    kind: `butterworth-${kind}`,
    title,
    summary,
    atRest,
    params: Type.Object({
      order: whole('Order', { min: 1, max: 12 }),
      cutoffHz: number('Cutoff frequency (−3 dB)', { above: 0, max: 1e6, unit: 'Hz' }),
    }),
    defaults: { order: 2, cutoffHz: 0.5 },
    ...sectionParts<Pass>(({ order, cutoffHz }, { sampleRateHz }) =>
      butterworthSections(kind, order, cutoffHz, sampleRateHz),
    ),
  });

export const butterworthLowpass = pass(
  'lowpass',
  'Butterworth low-pass',
  'Passes slow changes, removes frequencies above the cutoff',
  'passes',
);
export const butterworthHighpass = pass(
  'highpass',
  'Butterworth high-pass',
  'Removes constant values and slow drift, passes frequencies above the cutoff',
  'zero',
);
