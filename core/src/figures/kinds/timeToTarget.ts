import { Type } from 'typebox';
import { number, unitChoice } from '../../stage/params.ts';
import { printNominal, UNITS, type UnitId } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { slopeOf } from '../slopeOf.ts';
import { emptyWindow, takeReading, within } from '../window.ts';

/** When the reading will reach a target if it goes on as over the last readings. */
export const timeToTarget: FigureKind<{ target: number; windowS: number; to: string }> = {
  kind: 'time-to-target',
  title: 'Time to target',
  summary: 'Time until the reading reaches a target at the present rate',
  params: Type.Object({
    target: number('Target'),
    windowS: number('Rate over the last', { above: 0, max: 1e6, unit: 's' }),
    to: unitChoice(),
  }),
  defaults: { target: 0, windowS: 60, to: 'min' },
  roles: {},
  others: [],
  levels: ['target'],
  unit: ({ to }) => (UNITS[to as UnitId]?.dimension === 'time' ? (to as UnitId) : null),
  start({ target, windowS, to }, { budget }) {
    const m = emptyWindow();
    const scale = UNITS[to as UnitId].scale;
    return {
      memory: m,
      reading: (t, x) => takeReading(m, t, x, windowS),
      now() {
        const { t, x } = within(m, windowS);
        const line = slopeOf(t, x);
        const lengthS = (t.at(-1) ?? 0) - (t[0] ?? 0);
        if (!line || lengthS < windowS / 4)
          return none(`Waiting for ${printNominal(windowS / 4)} s of readings.`);
        const way = line.tangent ?? line;
        const left = target - way.last;
        if (Math.abs(line.slope) < 2 * line.u || left * way.slope < 0)
          return none(
            left * way.slope < 0
              ? 'The reading is moving away from the target.'
              : 'The reading is hardly changing.',
          );
        const wait = left / way.slope;
        const then = t.at(-1)! + wait;
        // Whether a bend goes on or straightens nobody knows: anything between is as likely.
        const bend = line.tangent?.bendAt(then) ?? 0;
        const off = Math.hypot(way.uAt(then), bend / Math.sqrt(3));
        if (bend !== 0 && 2 * off > Math.abs(left))
          return none(
            bend * way.slope < 0
              ? 'The change is slowing down so much that the time cannot be predicted; the target may never be reached.'
              : 'The change is speeding up so much that the time cannot be predicted.',
          );
        return figure(
          wait / scale,
          Math.hypot(off, budget(target).systematic) / Math.abs(way.slope) / scale,
          t.at(-1)!,
          `At ${(way.slope * 60).toPrecision(3)} per minute, the rate over the last ${lengthS.toFixed(0)} s.`,
        );
      },
    };
  },
};
