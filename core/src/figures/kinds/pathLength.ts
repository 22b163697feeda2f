import { Type } from 'typebox';
import { choice } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';

/** How far a length went since the reset: net, or all the way there and back. */
export const pathLength: FigureKind<{ gives: string }> = {
  kind: 'path',
  title: 'Net and path',
  summary: 'How far it went since the reset: net, or the whole way there and back',
  params: Type.Object({ gives: choice('Gives', ['net', 'path']) }),
  defaults: { gives: 'net' },
  roles: {},
  others: [],
  levels: [],
  unit: (_params, input) => (UNITS[input].dimension === 'length' ? input : null),
  start({ gives }, { budget }) {
    const m = { first: Number.NaN, x: Number.NaN, way: 0, atS: Number.NaN };
    return {
      memory: m,
      reading(t, x) {
        if (Number.isNaN(m.first)) m.first = x;
        else m.way += Math.abs(x - m.x);
        m.x = x;
        m.atS = t;
      },
      now() {
        if (Number.isNaN(m.first)) return none('No reading yet.');
        const net = m.x - m.first;
        const value = gives === 'net' ? net : m.way;
        return figure(
          value,
          budget(value).systematic,
          m.atS,
          gives === 'net' ? 'From where it stood at the reset.' : `Of which ${net.toPrecision(4)} net.`,
        );
      },
    };
  },
};
