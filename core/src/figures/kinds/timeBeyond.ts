import { Type } from 'typebox';
import { shortWay } from '../../numerics/index.ts';
import { unitChoice } from '../../stage/params.ts';
import { UNITS, type UnitId } from '../../units/index.ts';
import { figure, type FigureKind } from '../kind.ts';
import { counted } from '../../words/index.ts';

/** How long stretches lasted together: time over a limit, seconds in a sector. */
export const timeBeyond: FigureKind<{ to: string }> = {
  kind: 'time-beyond',
  title: 'Total event time',
  summary: 'Total duration of all events since reset, including one in progress',
  params: Type.Object({ to: unitChoice() }),
  defaults: { to: 's' },
  roles: { of: { title: 'Events', wants: 'stretch' } },
  others: [],
  levels: [],
  fromNothing: 'happens',
  unit: ({ to }) => (UNITS[to as UnitId]?.dimension === 'time' ? (to as UnitId) : null),
  start({ to }, { clockShare, sampleRateHz, isDirection, budget, edges }) {
    const m = {
      sum: 0,
      n: 0,
      squares: 0,
      slowS: 0,
      openS: Number.NaN,
      openU: 0,
      newestS: Number.NaN,
      doubtS: 0,
    };
    const limits = edges('of');
    const apart = isDirection ? shortWay : (a: number, b: number) => b - a;
    const scale = UNITS[to as UnitId].scale;
    const anywhere = 1 / sampleRateHz / Math.sqrt(12);
    return {
      memory: m,
      reading(t, x) {
        const step = t - m.newestS;
        // So near to an edge nobody knows on which side it truly was: what the reading is off by is the same all the time.
        if (step > 0 && limits.some((edge) => Math.abs(apart(edge, x)) < 2 * budget(edge).systematic))
          m.doubtS += step;
        m.newestS = t;
      },
      event(_role, e) {
        if (e.what === 'start') {
          m.openS = e.timeS;
          m.openU = e.uTimeS;
          return;
        }
        m.openS = Number.NaN;
        m.sum += e.endS - e.timeS;
        // Where a crossing lies between two readings is another chance each time; what noise at a slow one makes of it, or the
        // straight line through a jump, always adds.
        m.squares += 2 * Math.min(e.uTimeS, anywhere) ** 2;
        m.slowS += Math.sqrt(Math.max(0, 2 * (e.uTimeS ** 2 - anywhere ** 2)));
        m.n++;
      },
      now() {
        const open = Number.isNaN(m.openS) ? 0 : Math.max(0, m.newestS - m.openS);
        const together = m.sum + open;
        // Where nobody knows what a reading is worth, nobody knows how long it truly was beyond.
        const unknown = limits.some((edge) => Number.isNaN(budget(edge).systematic));
        const u = Math.hypot(
          Math.sqrt(m.squares + (open > 0 ? m.openU ** 2 : 0)),
          m.slowS,
          clockShare * together,
          m.doubtS / 2,
        );
        return figure(
          together / scale,
          unknown ? Number.NaN : u / scale,
          m.newestS,
          `${counted(m.n, 'finished event')}${open > 0 ? `, one in progress for ${open.toFixed(1)} s` : ''}.${m.doubtS > 0 ? ` For ${m.doubtS.toFixed(1)} s the reading was so close to the level that it may have been on the other side.` : ''}`,
        );
      },
    };
  },
};
