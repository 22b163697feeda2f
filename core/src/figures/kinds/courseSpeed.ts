import { Type } from 'typebox';
import { number, unitChoice } from '../../stage/params.ts';
import { convertUnit, UNITS, type UnitId } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { plusMinus, seconds } from '../words.ts';
import { laps } from './timeBetween.ts';

/** Mean speed over a course of known length. */
export const courseSpeed: FigureKind<{ lengthM: number; uncertaintyM: number; to: string }> = {
  kind: 'course-speed',
  title: 'Speed over a course',
  summary: 'A measured length over the time from start to finish',
  params: Type.Object({
    lengthM: number('Length of the course', { above: 0, max: 1e6, unit: 'm' }),
    uncertaintyM: number('known to ±', { min: 0, max: 1e5, unit: 'm' }),
    to: unitChoice(),
  }),
  defaults: { lengthM: 10, uncertaintyM: 0.05, to: 'mps' },
  roles: { from: { title: 'From', wants: 'begin' }, to: { title: 'to', wants: 'end' } },
  others: [],
  levels: [],
  unit: ({ to }) => (UNITS[to as UnitId]?.dimension === 'speed' ? (to as UnitId) : null),
  start({ lengthM, uncertaintyM, to }, context) {
    const lap = laps(context);
    return {
      memory: lap.memory,
      event: (role, e) => lap.take(role, (role === 'to' ? e.endS : e.timeS) - e.lagS, e.uTimeS),
      now() {
        const { last, from } = lap.memory;
        if (!last) return none(from ? 'Started; waiting for the finish.' : 'Waiting for the start.');
        const speed = convertUnit(lengthM / last.seconds, 'mps', to as UnitId);
        const share = Math.hypot(uncertaintyM / 2 / lengthM, last.u / last.seconds);
        return figure(
          speed,
          speed * share,
          last.fromS + last.seconds,
          `${lengthM} m ±${uncertaintyM} over ${seconds(last.seconds)} ${plusMinus(last.u)}.`,
        );
      },
    };
  },
};
