import { Type } from 'typebox';
import { choice } from '../../stage/params.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { counted } from '../../words/index.ts';

/** How long the last, or the longest, stretch lasted. */
export const eventLength: FigureKind<{ which: string }> = {
  kind: 'event-length',
  title: 'Event duration',
  summary: 'Duration of the last or the longest event',
  params: Type.Object({ which: choice('Which', ['last', 'longest']) }),
  defaults: { which: 'longest' },
  roles: { of: { title: 'Events', wants: 'stretch' } },
  others: [],
  levels: [],
  unit: () => 's',
  start({ which }, { clockShare }) {
    const m = { n: 0, lengthS: Number.NaN, atS: Number.NaN, u: 0 };
    return {
      memory: m,
      event(_role, e) {
        if (e.what === 'start') return;
        m.n++;
        const lengthS = e.endS - e.timeS;
        if (which === 'longest' && lengthS <= m.lengthS) return;
        Object.assign(m, { lengthS, atS: e.timeS, u: Math.SQRT2 * e.uTimeS });
      },
      now: () =>
        m.n === 0
          ? none('Waiting for the first event to end.')
          : figure(
              m.lengthS,
              Math.hypot(m.u, clockShare * m.lengthS),
              m.atS,
              `The ${which} of ${counted(m.n, 'event')}.`,
            ),
    };
  },
};
