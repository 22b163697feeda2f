import { Type } from 'typebox';
import { choice, number, whole } from '../../stage/params.ts';
import { moment, refused, type DetectorKind } from '../kind.ts';
import { levelCrossings, noCrossings } from '../levelCrossings.ts';

/** A raw column that changes: a start signal, a switch, a counter. A switch that bounces is confirmed by several rows. */
export const signal: DetectorKind<{ level: number; direction: string; n: number; m: number }> = {
  kind: 'signal',
  title: 'Signal from the board',
  summary: 'A raw column crosses a level, such as a start signal going from 0 to 1',
  looksAt: 'signal',
  params: Type.Object({
    level: number('Level'),
    direction: choice('Direction', ['rising', 'falling', 'either']),
    n: whole('Rows required', { min: 1, max: 1000 }),
    m: whole('Out of the latest', { min: 1, max: 1000 }),
  }),
  defaults: { level: 0.5, direction: 'rising', n: 1, m: 1 },
  levels: [],
  start({ level, direction, n, m }, _context, emit) {
    const memory = noCrossings();
    const finder = levelCrossings(
      { level, hysteresis: 0, n, m },
      (c) => {
        if (direction !== 'either' && c.direction !== direction) return;
        // It may have changed anywhere between the two rows: the middle, give or take.
        const timeS = c.beforeS + c.stepS / 2;
        emit(
          c.confirmed
            ? moment(timeS, level, Number.NaN, c.stepS / Math.sqrt(12))
            : refused(timeS, level, `Fewer than ${n} of the latest ${m} rows stayed beyond the level.`),
        );
      },
      memory,
    );
    return { memory, push: finder.push };
  },
};
