import { Type } from 'typebox';
import { figure, none, type FigureKind } from '../kind.ts';
import { noIntervals, takeEvent } from '../recentIntervals.ts';

/** Beats that seem to be missing or counted twice. */
export const missed: FigureKind<Record<string, never>> = {
  kind: 'missed',
  title: 'Missed and double-counted',
  summary: 'Beats missed or counted twice, judged by their intervals',
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
      now: () =>
        m.count < 5
          ? none('At least 5 events are needed to find the usual interval.')
          : figure(
              m.missed + m.doubled,
              0,
              m.lastS,
              `${m.missed} missed and ${m.doubled} counted twice out of ${m.count}.`,
            ),
    };
  },
};
