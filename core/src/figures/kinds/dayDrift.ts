import { Type } from 'typebox';
import { sampleSd } from '../../numerics/index.ts';
import { number } from '../../stage/params.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { noIntervals, takeEvent } from '../recentIntervals.ts';

/** What a clock gains or loses in a day, from its beats. */
export const dayDrift: FigureKind<{ nominalS: number }> = {
  kind: 'day-drift',
  title: 'Gain or loss per day',
  summary: 'Seconds a clock gains or loses per day, from its ticks',
  params: Type.Object({ nominalS: number('Nominal beat interval', { above: 0, max: 1000, unit: 's' }) }),
  defaults: { nominalS: 1 },
  roles: { of: { title: 'Beats', wants: 'moment' } },
  others: [],
  levels: [],
  unit: () => 'sPerD',
  start({ nominalS }, { clockShare }) {
    // Sums of good intervals: two events far apart tell more than the mean of many between them.
    const m = { ...noIntervals(), goodS: 0, good: 0, uFirst: Number.NaN, uTime: 0 };
    return {
      memory: m,
      event(_role, e) {
        const before = { missed: m.missed, doubled: m.doubled, lastS: m.lastS };
        takeEvent(m, e.timeS, 30);
        m.uTime = e.uTimeS;
        if (Number.isNaN(m.uFirst)) m.uFirst = e.uTimeS;
        if (m.missed !== before.missed || m.doubled !== before.doubled) return;
        const interval = e.timeS - before.lastS;
        if (!(interval > 0)) return;
        m.goodS += interval;
        m.good++;
      },
      now() {
        if (m.good < 5) return none(`At least 5 good intervals are needed; there are ${m.good}.`);
        const share = (nominalS * m.good) / m.goodS - 1;
        // Each end by its own timing, or by what single intervals scatter by, whichever is more.
        const scatter = m.recent.length > 2 ? sampleSd(m.recent) : 0;
        const u = Math.hypot(Math.max(Math.hypot(m.uFirst, m.uTime), scatter) / m.goodS, clockShare);
        return figure(
          86_400 * share,
          86_400 * u,
          m.lastS,
          `${m.good} good beats in ${m.goodS.toFixed(2)} s; nominal interval ${nominalS} s.`,
        );
      },
    };
  },
};
