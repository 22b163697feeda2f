import { Type } from 'typebox';
import {
  FIR_WINDOWS,
  firFilter,
  firResponse,
  firTaps,
  type FirKind,
  type FirWindow,
} from '../filters/index.ts';
import { filterStage } from '../stage/filterStage.ts';
import { choice, number, whole } from '../stage/params.ts';
import type { PrepareContext } from '../stage/contract.ts';
import { emitTaps } from './tapsInC.ts';

interface FirParams {
  taps: number;
  cutoffHz: number;
  window: string;
  [name: string]: number | string;
}

const tapped = (pass: FirKind, title: string, summary: string, atRest: 'passes' | 'zero') => {
  const design = (p: FirParams, { sampleRateHz }: PrepareContext) =>
    firTaps(p.taps, p.cutoffHz, sampleRateHz, p.window as FirWindow, pass);
  return filterStage<FirParams>({
    kind: pass === 'lowpass' ? 'fir' : 'fir-highpass',
    title,
    summary,
    atRest,
    params: Type.Object({
      taps: whole('Taps', { min: 3, max: 1023 }),
      cutoffHz: number('Cutoff frequency (half amplitude)', { above: 0, max: 1e6, unit: 'Hz' }),
      window: choice('Window', FIR_WINDOWS),
    }),
    defaults: { taps: 31, cutoffHz: 1, window: 'hamming' },
    start: (params, context) => firFilter(design(params, context), true),
    response: (params, context, frequencyHz) =>
      firResponse(design(params, context), frequencyHz, context.sampleRateHz),
    emitC: (params, c, context) => emitTaps(design(params, context), c),
  });
};

export const fir = tapped(
  'lowpass',
  'FIR low-pass',
  'Windowed sinc: the same delay at every frequency',
  'passes',
);
export const firHighpass = tapped(
  'highpass',
  'FIR high-pass',
  'Windowed sinc: removes constant values and drift, with the same delay at every frequency',
  'zero',
);
