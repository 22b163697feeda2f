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
  title: 'Drop, free fall',
  summary: 'Hardly any weight is felt for a while',
  looksAt: 'reading',
  params: Type.Object({
    level: number('Felt less than'),
    shortestS: number('Lasts at least', { above: 0, max: 100, unit: 's' }),
    ...CONFIRMED_BY,
  }),
  defaults: { level: 0.4, shortestS: 0.1, n: 1, m: 1 },
  levels: ['level'],
  start: (params, context, emit) => stretchesOf(asStretch(params), context, emit),
  find(trace) {
    const traits = traceTraits(trace);
    if (!traits) return { problem: 'Twenty readings are needed.' };
    const level = toThree(traits.middle * 0.4);
    if (!(level > 0))
      return { problem: 'The reading at rest is not above zero: look along the axis that feels gravity.' };
    return {
      params: { level, shortestS: 0.1, n: 1, m: 1 },
      deadTimeS: 0,
      why: `${inWords(level, trace.unit)}: two fifths of what is felt at rest, ${inWords(traits.middle, trace.unit)}; a tenth of a second is a fall of 5 cm.`,
    };
  },
  emitC: (params, c) => beyondInC(asStretch(params), c),
  edges: ({ level }) => [level],
  drawn: ({ level }) => [level],
};
