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
  summary: 'How often it happened since the reset',
  params: Type.Object({}),
  defaults: {},
  roles: { of: { title: 'Of', wants: 'moment' } },
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
            'They come too irregularly to tell whether any was missed.',
          );
        return figure(
          m.count,
          // Those that seem missed or doubled are what the count may be off by.
          (m.missed + m.doubled) / 2,
          m.lastS,
          m.missed + m.doubled > 0
            ? `${m.missed} seem missed and ${m.doubled} counted twice, by their intervals.`
            : 'None seem missed or counted twice, by their intervals.',
        );
      },
    };
  },
};
