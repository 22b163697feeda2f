import { Type } from 'typebox';
import { mean, sampleSd } from '../../numerics/index.ts';
import { figure, type FigureKind } from '../kind.ts';
import { noIntervals, takeEvent } from '../recentIntervals.ts';

/** Intervals that scatter by more than this share of their mean have no rhythm. */
const IRREGULAR = 0.2;

/** How often something happened since the last reset. */
export const count: FigureKind<Record<string, never>> = {
  kind: 'count',
  title: 'Count',
  summary: 'Number of events since reset',
  params: Type.Object({}),
  defaults: {},
  roles: { of: { title: 'Events', wants: 'moment' } },
  others: [],
  levels: [],
  unit: () => '1',
  start() {
    const m = noIntervals();
    return {
      memory: m,
      event: (_role, e) => takeEvent(m, e.timeS, 15),
      now() {
        if (m.count === 0) return figure(0, 0, m.lastS, 'None yet.');
        // Only what comes regularly tells by its intervals what was missed.
        if (m.recent.length < 5 || sampleSd(m.recent) > IRREGULAR * mean(m.recent))
          return figure(
            m.count,
            Number.NaN,
            m.lastS,
            'The intervals are too irregular to tell whether events were missed.',
          );
        return figure(
          m.count,
          // Those that seem missed or doubled are what the count may be off by.
          (m.missed + m.doubled) / 2,
          m.lastS,
          m.missed + m.doubled > 0
            ? `By their intervals, ${m.missed} seem to be missed and ${m.doubled} counted twice.`
            : 'By their intervals, no events seem to be missed or counted twice.',
        );
      },
    };
  },
};
