import { Type } from 'typebox';
import { choice, number } from '../../stage/params.ts';
import { beyondInC } from '../inC/pulseInC.ts';
import { CONFIRMED_BY, notConfirmed } from '../gates.ts';
import { inWords, toThree } from '../inWords.ts';
import { begun, moment, refused, type DetectContext, type DetectorKind, type DetectorRun } from '../kind.ts';
import { noPassage, passage } from '../passage.ts';
import { beyond, noStretches } from '../stretchesBeyond.ts';
import { timingU } from '../timingU.ts';
import { traceTraits } from '../traceTraits.ts';

type BeyondParams = {
  side: string;
  level: number;
  hysteresis: number;
  shortestS: number;
  n: number;
  m: number;
};

/** Stretches above or below a level. */
export const beyondLevel: DetectorKind<BeyondParams> = {
  kind: 'beyond',
  title: 'Above or below a level',
  summary: 'The time the reading stays above or below a level',
  looksAt: 'reading',
  params: Type.Object({
    side: choice('Side', ['above', 'below']),
    level: number('Level'),
    hysteresis: number('Hysteresis', { min: 0 }),
    shortestS: number('Minimum duration', { min: 0, max: 1e6, unit: 's' }),
    ...CONFIRMED_BY,
  }),
  defaults: { side: 'above', level: 0, hysteresis: 0, shortestS: 0, n: 1, m: 1 },
  levels: ['level', 'hysteresis'],
  start: stretchesOf,
  find(trace) {
    const traits = traceTraits(trace);
    if (!traits) return { problem: 'At least 20 readings are needed.' };
    const { low, high, noise } = traits;
    if (!(high - low > 6 * noise))
      return { problem: 'The reading does not change. Let it cross the level once.' };
    const level = toThree(low + 0.75 * (high - low));
    const { unit } = trace;
    return {
      params: {
        side: 'above',
        level,
        hysteresis: toThree(Math.max(4 * noise, (high - low) / 50)),
        shortestS: 0,
        n: 1,
        m: 1,
      },
      deadTimeS: 0,
      why: `Level ${inWords(level, unit)}: three quarters of the way from ${inWords(low, unit)} to ${inWords(high, unit)}. Adjust the level as you need.`,
    };
  },
  emitC: beyondInC,
  edges: ({ level }) => [level],
  drawn: ({ level }) => [level],
};

/** So many standard deviations of noise between two readings: the level is passed fast. */
const FAST = 4;

/** Stretches beyond a level as events; those that are too short or not confirmed do not count. */
export function stretchesOf(
  { side, level, hysteresis, shortestS, n, m }: BeyondParams,
  { sampleRateHz, noise }: DetectContext,
  emit: Parameters<DetectorKind['start']>[2],
): DetectorRun {
  const none = Number.NaN;
  const memory = {
    stretches: noStretches(),
    passage: noPassage(),
    t: none,
    x: none,
    before: none,
    /** Of the crossing between the last two readings, of that which began, and of the last one back, s; NaN for slow ones. */
    uCrossed: none,
    uBegan: none,
    uBack: none,
  };
  const sign = side === 'above' ? 1 : -1;
  const passing = passage(sign, level, noise, memory.passage);
  const atFirst = 1 / sampleRateHz / Math.sqrt(12);
  // Where readings hardly rise beside their noise, only how long the passage took tells.
  const uOf = (crossed: number, took: number) => (Number.isNaN(crossed) ? Math.max(atFirst, took) : crossed);
  const finder = beyond(
    { side: side === 'above' ? 'above' : 'below', level, comesBack: hysteresis, n, m },
    ({ startS, endS, extreme }) => {
      const long = endS - startS >= shortestS;
      // One uncertainty for both ends: the root mean square of theirs.
      const first = uOf(memory.uBegan, passing.uBegin(memory.t));
      const u = Math.hypot(first, uOf(memory.uBack, passing.uEnd(memory.t, startS))) / Math.SQRT2;
      emit({
        ...moment(startS, level, extreme, u),
        endS,
        counted: long,
        why: long ? '' : `Shorter than ${shortestS} s.`,
      });
    },
    memory.stretches,
    {
      comes() {
        memory.uBegan = memory.uCrossed;
        passing.begins(memory.t);
      },
      begins: (startS) => emit(begun(startS, level, uOf(memory.uBegan, passing.uBegin(memory.t)))),
      fails: (startS) => emit(refused(startS, level, notConfirmed({ n, m }))),
    },
  );
  return {
    memory,
    push(t, x) {
      const isFar = sign * (x - level) >= 0;
      if (isFar !== sign * (memory.x - level) >= 0) {
        const rise = x - memory.x;
        const share = (level - memory.x) / rise;
        memory.uCrossed =
          Math.abs(rise) < FAST * noise(level)
            ? none
            : timingU(t - memory.t, rise, memory.x - memory.before, noise(level), share);
        if (!isFar) memory.uBack = memory.uCrossed;
      }
      memory.before = memory.x;
      memory.x = x;
      memory.t = t;
      passing.push(t, x);
      finder.push(t, x);
    },
  };
}
