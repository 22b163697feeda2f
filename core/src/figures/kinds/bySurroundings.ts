import { Type } from 'typebox';
import { numbers } from '../../stage/params.ts';
import { figure, none, type FigureKind } from '../kind.ts';

/** Below this share of what it reads where it was trued up, a sensor says nothing of what it senses any more. */
const LEAST_SHARE = 0.05;

/**
 * A reading put right for what surrounds the sensor: divided by 1 and so much for each unit by which temperature, damp or the
 * like lie off where the channel was trued up.
 */
export const bySurroundings: FigureKind<{ shares: number[]; at: number[]; doubts: number[] }> = {
  kind: 'by-surroundings',
  title: 'Put right by surroundings',
  summary: 'The reading put right for temperature, damp or the like, as other channels read them',
  params: Type.Object({
    shares: numbers('It reads more by such a share for each unit of each', 1, 15),
    at: numbers('What they were when it was trued up', 1, 15),
    doubts: numbers('Standard uncertainty of each share', 1, 15),
  }),
  defaults: { shares: [0], at: [20], doubts: [0] },
  defaultsFor: (_input, others) => ({
    shares: others.map(() => 0),
    at: others.map(() => 20),
    doubts: others.map(() => 0),
  }),
  roles: {},
  others: 'several',
  othersOfAnyUnit: true,
  levels: [],
  unit: ({ shares, at, doubts }, input, others) =>
    others.length > 0 && [shares, at, doubts].every((list) => list.length === others.length) ? input : null,
  start({ shares, at, doubts }, { budget, otherBudgets }) {
    const m = { x: Number.NaN, others: shares.map(() => Number.NaN), atS: Number.NaN };
    return {
      memory: m,
      reading(t, x, others) {
        Object.assign(m, { x, others: [...others], atS: t });
      },
      now() {
        if (Number.isNaN(m.atS)) return none('No reading yet.');
        if (![m.x, ...m.others].every(Number.isFinite)) return none('Each of the channels must read.');
        const off = m.others.map((y, k) => y - at[k]!);
        const factor = 1 + off.reduce((sum, d, k) => sum + shares[k]! * d, 0);
        if (!(factor > LEAST_SHARE))
          return none('So far off where it was trued up these shares do not hold.');
        const value = m.x / factor;
        const own = budget(m.x);
        const u = Math.hypot(
          own.systematic / factor,
          own.noise / factor,
          ...off.flatMap((d, k) => {
            const theirs = otherBudgets[k]!(m.others[k]!);
            const slope = value / factor;
            return [
              slope * d * doubts[k]!,
              slope * shares[k]! * theirs.systematic,
              slope * shares[k]! * theirs.noise,
            ];
          }),
        );
        const percent = Number((100 * (factor - 1)).toPrecision(3));
        return figure(value, u, m.atS, `It reads ${percent} % more there than where it was trued up.`);
      },
    };
  },
};
