import { Type } from 'typebox';
import { choice } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';

/** Standard deviations of noise that it must come back before it has turned round. */
const TURN = 6;

/** How far a length went since the reset: net, or all the way there and back. */
export const pathLength: FigureKind<{ gives: string }> = {
  kind: 'path',
  title: 'Distance travelled',
  summary: 'Distance since reset: net, or total path including turning back',
  params: Type.Object({ gives: choice('Result', ['net', 'path']) }),
  defaults: { gives: 'net' },
  roles: {},
  others: [],
  levels: [],
  fromNothing: 'grows',
  unit: (_params, input) => (UNITS[input].dimension === 'length' ? input : null),
  start({ gives }, { budget }) {
    // The way up to the last turn, where that was, and how far it has gone since.
    const m = {
      first: Number.NaN,
      x: Number.NaN,
      way: 0,
      turn: Number.NaN,
      far: Number.NaN,
      turns: 0,
      atS: Number.NaN,
    };
    return {
      memory: m,
      reading(t, x) {
        if (Number.isNaN(m.first)) m.first = m.turn = m.far = x;
        else {
          // Noise goes there and back all the time: only what is more than it turns the way round.
          const least = TURN * (budget(x).noise || 0);
          const ahead = (x - m.far) * (Math.sign(m.far - m.turn) || Math.sign(x - m.far));
          if (ahead >= 0) m.far = x;
          else if (-ahead > least) {
            const leg = Math.abs(m.far - m.turn);
            // What went no further than noise goes was no way.
            if (leg > least) {
              m.way += leg;
              m.turn = m.far;
              m.turns++;
            }
            m.far = x;
          }
        }
        m.x = x;
        m.atS = t;
      },
      now() {
        if (Number.isNaN(m.first)) return none('No readings yet.');
        const net = m.x - m.first;
        if (gives === 'net') {
          const { systematic, noise } = budget(net);
          return figure(
            net,
            Math.hypot(systematic, Math.SQRT2 * noise),
            m.atS,
            'Measured from the position at reset.',
          );
        }
        const way = m.way + Math.abs(m.far - m.turn);
        const { systematic, noise } = budget(way);
        // Each turn is the furthest of many readings, up to 3.4 deviations of noise too far: twice 1.7, and it always adds.
        const u = systematic + 1.7 * noise * (m.turns + 1);
        return figure(
          way,
          u,
          m.atS,
          `${net.toPrecision(4)} net; direction reversed ${m.turns === 1 ? 'once' : `${m.turns} times`}.`,
        );
      },
    };
  },
};
