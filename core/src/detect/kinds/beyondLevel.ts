import { Type } from 'typebox';
import { choice, number } from '../../stage/params.ts';
import { inWords, toThree } from '../inWords.ts';
import { begun, moment, type DetectorKind } from '../kind.ts';
import { beyond, noStretches } from '../stretchesBeyond.ts';
import { traceTraits } from '../traceTraits.ts';

type BeyondParams = { side: string; level: number; hysteresis: number; shortestS: number };

/** Stretches above or below a level. */
export const beyondLevel: DetectorKind<BeyondParams> = {
  kind: 'beyond',
  title: 'Above or below a level',
  summary: 'How long the reading stays beyond a level',
  looksAt: 'reading',
  params: Type.Object({
    side: choice('Side', ['above', 'below']),
    level: number('Level'),
    hysteresis: number('Hysteresis', { min: 0 }),
    shortestS: number('Lasts at least', { min: 0, max: 1e6, unit: 's' }),
  }),
  defaults: { side: 'above', level: 0, hysteresis: 0, shortestS: 0 },
  levels: ['level', 'hysteresis'],
  start: (params, context, emit) => stretchesOf(params, context.sampleRateHz, emit),
  find(trace) {
    const traits = traceTraits(trace);
    if (!traits) return { problem: 'Twenty readings are needed.' };
    const { low, high, noise } = traits;
    if (!(high - low > 6 * noise))
      return { problem: 'The reading only stands still: let it pass the level once.' };
    const level = toThree(low + 0.75 * (high - low));
    const { unit } = trace;
    return {
      params: {
        side: 'above',
        level,
        hysteresis: toThree(Math.max(4 * noise, (high - low) / 50)),
        shortestS: 0,
      },
      deadTimeS: 0,
      why: `${inWords(level, unit)}: three quarters of the way from ${inWords(low, unit)} to ${inWords(high, unit)}. The level is yours to choose.`,
    };
  },
  drawn: ({ level }) => [level],
};

/** Stretches beyond a level as events; those that are too short do not count. */
export function stretchesOf(
  { side, level, hysteresis, shortestS }: BeyondParams,
  sampleRateHz: number,
  emit: Parameters<DetectorKind['start']>[2],
) {
  const memory = noStretches();
  const u = 1 / sampleRateHz / Math.sqrt(12);
  const finder = beyond(
    { side: side === 'above' ? 'above' : 'below', level, comesBack: hysteresis },
    ({ startS, endS, extreme }) => {
      const long = endS - startS >= shortestS;
      emit({
        ...moment(startS, level, extreme, u),
        endS,
        counted: long,
        why: long ? '' : `Shorter than ${shortestS} s.`,
      });
    },
    memory,
    (startS) => emit(begun(startS, level, u)),
  );
  return { memory, push: finder.push };
}
