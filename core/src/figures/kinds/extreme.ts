import { Type } from 'typebox';
import { choice } from '../../stage/params.ts';
import { noHighest, noiseOfHighest, takeSize } from '../highestOf.ts';
import { figure, none, type FigureKind } from '../kind.ts';

/** Highest or lowest reading since the reset, with its moment. */
export const extreme: FigureKind<{ which: string }> = {
  kind: 'extreme',
  title: 'Highest or lowest',
  summary: 'The highest or lowest reading since reset, and its time',
  params: Type.Object({ which: choice('Which', ['highest', 'lowest', 'largest']) }),
  defaults: { which: 'highest' },
  roles: {},
  others: [],
  levels: [],
  unit: (_params, input) => input,
  start({ which }, { budget }) {
    const m = { value: Number.NaN, atS: Number.NaN, highest: noHighest() };
    const size = which === 'lowest' ? (x: number) => -x : which === 'largest' ? Math.abs : (x: number) => x;
    return {
      memory: m,
      reading(t, x) {
        if (!takeSize(m.highest, size(x), budget(x).noise)) return;
        m.value = x;
        m.atS = t;
      },
      now() {
        if (Number.isNaN(m.value)) return none('No readings yet.');
        const { systematic, noise } = budget(m.value);
        return figure(
          m.value,
          Math.hypot(systematic, noiseOfHighest(m.highest) * noise),
          m.atS,
          `The ${which} since reset.`,
        );
      },
    };
  },
};
