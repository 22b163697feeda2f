import { Type } from 'typebox';
import { number } from '../../stage/params.ts';
import { beyondInC } from '../inC/pulseInC.ts';
import { CONFIRMED_BY } from '../gates.ts';
import { inWords, toThree } from '../inWords.ts';
import type { DetectorKind } from '../kind.ts';
import { traceTraits } from '../traceTraits.ts';
import { stretchesOf } from './beyondLevel.ts';

const asStretch = <P extends { level: number }>(params: P) => ({
  ...params,
  side: 'below',
  hysteresis: params.level / 4,
});

/** Drops: hardly any weight is felt for a while. */
export const freeFall: DetectorKind<{ level: number; shortestS: number; n: number; m: number }> = {
  kind: 'free-fall',
  title: 'Free fall',
  summary: 'Almost no weight for a short time',
  looksAt: 'reading',
  params: Type.Object({
    level: number('Reading below'),
    shortestS: number('Minimum duration', { above: 0, max: 100, unit: 's' }),
    ...CONFIRMED_BY,
  }),
  defaults: { level: 0.4, shortestS: 0.1, n: 1, m: 1 },
  levels: ['level'],
  start: (params, context, emit) => stretchesOf(asStretch(params), context, emit),
  find(trace) {
    const traits = traceTraits(trace);
    if (!traits) return { problem: 'At least 20 readings are needed.' };
    const level = toThree(traits.middle * 0.4);
    if (!(level > 0))
      return { problem: 'The reading at rest is not above zero. Choose the axis that measures gravity.' };
    return {
      params: { level, shortestS: 0.1, n: 1, m: 1 },
      deadTimeS: 0,
      why: `Level ${inWords(level, trace.unit)}: two fifths of the reading at rest, ${inWords(traits.middle, trace.unit)}. Falling for 0.1 s is a drop of 5 cm.`,
    };
  },
  emitC: (params, c) => beyondInC(asStretch(params), c),
  edges: ({ level }) => [level],
  drawn: ({ level }) => [level],
};
