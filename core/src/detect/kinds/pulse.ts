import { Type } from 'typebox';
import { number } from '../../stage/params.ts';
import { pulseInC } from '../inC/pulseInC.ts';
import { CONFIRMED_BY, notConfirmed } from '../gates.ts';
import { inWords, toThree } from '../inWords.ts';
import { begun, moment, refused, type DetectorKind } from '../kind.ts';
import { detectAll } from '../detector.ts';
import { noPulses, pulses, type Pulse } from '../pulses.ts';
import { smallestOf } from '../smallestOf.ts';
import { traceTraits } from '../traceTraits.ts';

/** Blows and other pulses above a level, with their peak and their area. */
export const pulse: DetectorKind<{
  level: number;
  hysteresis: number;
  shortestS: number;
  n: number;
  m: number;
}> = {
  kind: 'pulse',
  title: 'Pulse',
  summary: 'The reading rises above a level and falls again. Peak and area are recorded.',
  looksAt: 'reading',
  params: Type.Object({
    level: number('Level'),
    hysteresis: number('Hysteresis', { min: 0 }),
    shortestS: number('Minimum duration', { min: 0, max: 1e6, unit: 's' }),
    ...CONFIRMED_BY,
  }),
  defaults: { level: 0, hysteresis: 0, shortestS: 0, n: 1, m: 1 },
  levels: ['level', 'hysteresis'],
  start({ level, hysteresis, shortestS, n, m }, { sampleRateHz }, emit) {
    const memory = noPulses();
    const u = 1 / sampleRateHz / Math.sqrt(12);
    const finder = pulses(
      { level, hysteresis, n, m },
      (p) =>
        emit({
          ...moment(p.startS, p.top, p.top, u),
          endS: p.endS,
          area: p.area,
          counted: p.widthS >= shortestS,
          why: p.widthS >= shortestS ? '' : `Shorter than ${shortestS} s.`,
        }),
      memory,
      {
        begins: (startS) => emit(begun(startS, level, u)),
        fails: (startS) => emit(refused(startS, level, notConfirmed({ n, m }))),
      },
    );
    return { memory, push: finder.push, quietUntil: finder.quietUntil };
  },
  find(trace) {
    const traits = traceTraits(trace);
    if (!traits) return { problem: 'At least 20 readings with a few pulses are needed.' };
    const { middle, noise, times, values } = traits;
    const floor = middle + 8 * noise;
    const all = detectAll<Pulse>(
      (emit) => pulses({ level: floor, hysteresis: 4 * noise }, emit),
      times,
      values,
    );
    const smallest = smallestOf(all.map((p) => p.top - middle));
    if (smallest === null)
      return { problem: 'Fewer than three pulses stand out from the noise. Let a few more happen.' };
    const level = toThree(middle + (8 * noise + smallest) / 2);
    const hysteresis = toThree((level - middle) / 2);
    const { unit } = trace;
    return {
      params: { level, hysteresis, shortestS: 0, n: 1, m: 1 },
      deadTimeS: 0,
      why: `Level ${inWords(level, unit)}: halfway between the noise above rest, ${inWords(floor, unit)}, and the smallest of ${all.length} pulses, ${inWords(middle + smallest, unit)}.`,
    };
  },
  emitC: pulseInC,
  edges: ({ level }) => [level],
  drawn: ({ level }) => [level],
};
