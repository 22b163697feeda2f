import { Type } from 'typebox';
import { figure, type FigureKind } from '../kind.ts';
import { noIntervals, takeEvent } from '../recentIntervals.ts';

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
      now: () =>
        figure(
          m.count,
          // Those that seem missed or doubled are what the count may be off by.
          (m.missed + m.doubled) / 2,
          m.lastS,
          m.missed + m.doubled > 0
            ? `${m.missed} seem missed and ${m.doubled} counted twice, by their intervals.`
            : 'None seem missed or counted twice, by their intervals.',
        ),
    };
  },
};
