import { Type } from 'typebox';
import { number, whole } from '../../stage/params.ts';
import { begun, moment, type DetectorKind } from '../kind.ts';
import { beat } from './beat.ts';

interface BoutMemory {
  beats: object;
  startS: number;
  lastS: number;
  count: number;
  told: boolean;
}

/** Beats that belong together: a pause ends a bout, and a few beats alone are handling, not work. */
export const bout: DetectorKind<{
  level: number;
  minHeight: number;
  refractoryS: number;
  memoryS: number;
  baselineS: number;
  n: number;
  m: number;
  gapS: number;
  least: number;
}> = {
  kind: 'bout',
  title: 'Series of beats',
  summary: 'Beats in a row, ended by a pause',
  looksAt: 'reading',
  params: Type.Object({
    ...beat.params.properties,
    gapS: number('Pause that ends the series', { above: 0, max: 1e5, unit: 's' }),
    least: whole('Minimum number of beats', { min: 1, max: 10000 }),
  }),
  defaults: { ...beat.defaults, gapS: 5, least: 4 },
  levels: ['minHeight'],
  start({ gapS, least, ...beats }, context, emit) {
    const fresh = () => ({ startS: Number.NaN, lastS: Number.NaN, count: 0, told: false });
    const finder = beat.start(beats, context, ({ timeS, at, uTimeS, counted }) => {
      if (!counted) return;
      if (m.count === 0) m.startS = timeS;
      m.count++;
      m.lastS = timeS;
      if (m.count < least || m.told) return;
      m.told = true;
      emit(begun(m.startS, at, uTimeS));
    });
    const m: BoutMemory = { beats: finder.memory, ...fresh() };
    return {
      memory: m,
      push(t, x) {
        if (m.count > 0 && t - m.lastS > gapS) {
          const enough = m.count >= least;
          emit({
            ...moment(m.startS, x, m.count, 1 / context.sampleRateHz),
            endS: m.lastS,
            counted: enough,
            why: enough ? '' : `Only ${m.count} of ${least} beats: too few for a series.`,
          });
          Object.assign(m, fresh());
        }
        finder.push(t, x);
      },
    };
  },
  find(trace) {
    const found = beat.find!(trace);
    if ('problem' in found) return found;
    const usual = Number(found.params['memoryS']) / 4;
    const gapS = Number((3 * usual).toPrecision(3));
    return {
      ...found,
      params: { ...found.params, gapS, least: 4 },
      why: `${found.why} A pause of three usual intervals, ${gapS} s, ends a series.`,
    };
  },
};
