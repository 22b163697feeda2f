import { Type } from 'typebox';
import { choice, number } from '../../stage/params.ts';
import { moment, type DetectorKind } from '../kind.ts';

/** A raw column that changes: a start signal, a switch, a counter. */
export const signal: DetectorKind<{ level: number; direction: string }> = {
  kind: 'signal',
  title: 'Signal of the board',
  summary: 'A raw column passes a level, such as a start signal from 0 to 1',
  looksAt: 'signal',
  params: Type.Object({
    level: number('Passes'),
    direction: choice('Direction', ['rising', 'falling', 'either']),
  }),
  defaults: { level: 0.5, direction: 'rising' },
  levels: [],
  start({ level, direction }, _context, emit) {
    const m = { t0: Number.NaN, x0: Number.NaN };
    return {
      memory: m,
      push(t, x) {
        const was = m.x0 >= level;
        const is = x >= level;
        if (
          !Number.isNaN(m.x0) &&
          was !== is &&
          (direction === 'either' || (direction === 'rising') === is)
        ) {
          // It may have changed anywhere between the two rows: the middle, give or take.
          const stepS = t - m.t0;
          emit(moment(m.t0 + stepS / 2, level, Number.NaN, stepS / Math.sqrt(12)));
        }
        m.t0 = t;
        m.x0 = x;
      },
    };
  },
};
