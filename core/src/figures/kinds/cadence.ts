import { Type } from 'typebox';
import { number, unitChoice, whole } from '../../stage/params.ts';
import { UNITS, type UnitId } from '../../units/index.ts';
import { sampleSd, studentTQuantile } from '../../numerics/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { noIntervals, takeEvent } from '../recentIntervals.ts';

/** Events a minute, over the last few intervals; 0 once they have stopped. */
export const cadence: FigureKind<{ over: number; stillS: number; to: string }> = {
  kind: 'cadence',
  title: 'Cadence',
  summary: 'Events per minute over the last few events; 0 when they stop',
  params: Type.Object({
    over: whole('Average over the last (events)', { min: 1, max: 1000 }),
    stillS: number('Zero if no event for', { above: 0, max: 1e5, unit: 's' }),
    to: unitChoice(),
  }),
  defaults: { over: 8, stillS: 3, to: 'perMin' },
  roles: { of: { title: 'Events', wants: 'moment' } },
  others: [],
  levels: [],
  fromNothing: 'happens',
  unit: ({ to }) => (UNITS[to as UnitId]?.dimension === 'frequency' ? (to as UnitId) : null),
  start({ over, stillS, to }, { clockShare }) {
    const m = { ...noIntervals(), newestS: Number.NaN, firstS: Number.NaN, uTime: 0 };
    const scale = UNITS[to as UnitId].scale;
    return {
      memory: m,
      event(_role, e) {
        takeEvent(m, e.timeS, over, stillS);
        m.uTime = e.uTimeS;
      },
      reading(t) {
        if (Number.isNaN(m.firstS)) m.firstS = t;
        m.newestS = t;
      },
      now() {
        const quietS = m.newestS - (Number.isNaN(m.lastS) ? m.firstS : m.lastS);
        if (quietS > stillS) return figure(0, 0, m.newestS, `No event for ${stillS} s.`);
        const used = m.recent.slice(-over);
        if (used.length === 0) return none('Waiting for a second event.');
        const together = used.reduce((a, b) => a + b, 0);
        const perSecond = used.length / together;
        // Both ends of the whole stretch; what single intervals scatter by is theirs, not the rate's.
        const share = Math.hypot(Math.min(Math.SQRT2 * m.uTime, mostByScatter(used)) / together, clockShare);
        return figure(
          perSecond / scale,
          (perSecond / scale) * share,
          m.lastS,
          `${used.length} intervals in ${together.toFixed(2)} s.`,
        );
      },
    };
  },
};

/**
 * What the ends of regular intervals can be off by at the most, against each other: the moments cannot scatter by more than the
 * intervals do, widened so that twice it holds 95 % with few of them. Intervals that are alike to rounding tell nothing.
 */
function mostByScatter(intervals: readonly number[]): number {
  const scatter = sampleSd(intervals);
  return scatter > 0
    ? (scatter * studentTQuantile(0.975, intervals.length - 1)) / 2
    : Number.POSITIVE_INFINITY;
}
