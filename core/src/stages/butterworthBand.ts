import { Type } from 'typebox';
import { butterworthSections, type ButterworthKind } from '../filters/index.ts';
import { filterStage } from '../stage/filterStage.ts';
import { number, whole } from '../stage/params.ts';
import { sectionParts } from './sectionStage.ts';

interface Band {
  order: number;
  lowHz: number;
  highHz: number;
  [name: string]: number;
}

const params = Type.Object({
  order: whole('Order', { min: 1, max: 6 }),
  lowHz: number('Lower cutoff', { above: 0, max: 1e6, unit: 'Hz' }),
  highHz: number('Upper cutoff', { above: 0, max: 1e6, unit: 'Hz' }),
});
const parts = (kind: ButterworthKind) =>
  sectionParts<Band>(({ order, lowHz, highHz }, { sampleRateHz }) =>
    butterworthSections(kind, order, [lowHz, highHz], sampleRateHz),
  );

export const butterworthBandpass = filterStage<Band>({
  kind: 'butterworth-bandpass',
  title: 'Butterworth band-pass',
  summary: 'Passes a frequency band, such as a beat or stroke without drift and noise',
  params,
  defaults: { order: 2, lowHz: 0.5, highHz: 3 },
  atRest: 'zero',
  ...parts('bandpass'),
});

export const butterworthBandstop = filterStage<Band>({
  kind: 'butterworth-bandstop',
  title: 'Butterworth band-stop',
  summary: 'Removes a frequency band, passes the rest',
  params,
  defaults: { order: 2, lowHz: 1, highHz: 3 },
  ...parts('bandstop'),
});
