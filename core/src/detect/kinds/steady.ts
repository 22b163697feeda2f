import { Type } from 'typebox';
import { number } from '../../stage/params.ts';
import { inWords, toThree } from '../inWords.ts';
import { begun, moment, type DetectorKind } from '../kind.ts';
import { noWindow, stableWindows } from '../stableWindows.ts';
import { traceTraits } from '../traceTraits.ts';

/** Stretches in which the reading stands still. */
export const steady: DetectorKind<{ windowS: number; drift: number; scatter: number }> = {
  kind: 'steady',
  title: 'Steady section',
  summary: 'The reading stays steady for a while. Its mean is recorded.',
  looksAt: 'reading',
  params: Type.Object({
    windowS: number('Minimum duration', { above: 0, max: 1e5, unit: 's' }),
    drift: number('Maximum drift', { min: 0 }),
    scatter: number('Maximum scatter', { min: 0 }),
  }),
  defaults: { windowS: 5, drift: 1, scatter: 1 },
  levels: ['drift', 'scatter'],
  start(params, { sampleRateHz }, emit) {
    const memory = noWindow();
    const finder = stableWindows(
      params,
      ({ startS, endS, mean }) => emit({ ...moment(startS, mean, mean, 1 / sampleRateHz), endS }),
      memory,
      ({ startS, mean }) => emit({ ...begun(startS, mean, 1 / sampleRateHz), value: mean }),
    );
    return { memory, push: finder.push };
  },
  find(trace) {
    const traits = traceTraits(trace);
    if (!traits) return { problem: 'At least 20 readings are needed.' };
    const scatter = toThree(Math.max(3 * traits.noise, 1e-9));
    const windowS = toThree(Math.max(5, 20 / traits.sampleRateHz));
    return {
      params: { windowS, drift: toThree(2 * scatter), scatter },
      deadTimeS: 0,
      why: `Maximum scatter ${inWords(scatter, trace.unit)}: three times the noise, ${inWords(traits.noise, trace.unit)}. Maximum drift: twice that over ${windowS} s.`,
    };
  },
};
