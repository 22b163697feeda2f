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
  summary: 'A known length divided by the time from start to finish',
  params: Type.Object({
    lengthM: number('Course length', { above: 0, max: 1e6, unit: 'm' }),
    uncertaintyM: number('Length uncertainty ±', { min: 0, max: 1e5, unit: 'm' }),
    to: unitChoice(),
  }),
  defaults: { lengthM: 10, uncertaintyM: 0.05, to: 'mps' },
  roles: { from: { title: 'Start', wants: 'begin' }, to: { title: 'Finish', wants: 'end' } },
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
        if (!last) return none(from ? 'Started. Waiting for the finish.' : 'Waiting for the start.');
        const speed = convertUnit(lengthM / last.seconds, 'mps', to as UnitId);
        const share = Math.hypot(uncertaintyM / 2 / lengthM, last.u / last.seconds);
        return figure(
          speed,
          speed * share,
          last.fromS + last.seconds,
          `${lengthM} m ±${uncertaintyM} m over ${seconds(last.seconds)}, uncertainty ${plusMinus(last.u, 's')}.`,
        );
      },
    };
  },
};
