import { Type } from 'typebox';
import { mean, sampleSd } from '../../numerics/index.ts';
import { whole } from '../../stage/params.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { noIntervals, takeEvent } from '../recentIntervals.ts';

/** How much single intervals differ. */
export const intervalScatter: FigureKind<{ over: number }> = {
  kind: 'interval-scatter',
  title: 'Scatter of intervals',
  summary: 'Standard deviation of the intervals, in per cent of their mean',
  params: Type.Object({ over: whole('Over the last (intervals)', { min: 3, max: 1000 }) }),
  defaults: { over: 30 },
  roles: { of: { title: 'Events', wants: 'moment' } },
  others: [],
  levels: [],
  unit: () => 'percent',
  start({ over }) {
    const m = noIntervals();
    return {
      memory: m,
      event: (_role, e) => takeEvent(m, e.timeS, over),
      now() {
        const used = m.recent.slice(-over);
        if (used.length < 3) return none(`At least 3 intervals are needed; there are ${used.length}.`);
        const share = (100 * sampleSd(used)) / mean(used);
        return figure(
          share,
          // Standard error of a standard deviation.
          share / Math.sqrt(2 * (used.length - 1)),
          m.lastS,
          `${used.length} intervals with a mean of ${mean(used).toFixed(3)} s.`,
        );
      },
    };
  },
};
