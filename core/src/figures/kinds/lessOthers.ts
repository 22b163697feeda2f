import { Type } from 'typebox';
import { number, numbers } from '../../stage/params.ts';
import { figure, none, type FigureKind } from '../kind.ts';

/**
 * A reading with what other channels' quantities add to it taken off: a sum of all readings, each by a weight of its own. The
 * weights are a row of the inverse of the matrix that says what each channel answers to each quantity
 * (`calibrate/crossAnswers.ts`). What the others are worth, and what the weights are, comes to its own worth in squares.
 */
export const lessOthers: FigureKind<{ own: number; weights: number[]; doubts: number[] }> = {
  kind: 'less-others',
  title: 'Without what others add',
  summary: 'The reading with what the quantities of other channels add to it taken off',
  params: Type.Object({
    own: number('Of its own reading'),
    weights: numbers('Of each other’s reading', 1, 15),
    doubts: numbers('Standard uncertainty of each weight, its own first', 2, 16),
  }),
  defaults: { own: 1, weights: [0], doubts: [0, 0] },
  defaultsFor: (_input, others) => ({
    own: 1,
    weights: others.map(() => 0),
    doubts: [0, ...others.map(() => 0)],
  }),
  roles: {},
  others: 'several',
  levels: [],
  unit: ({ weights, doubts }, input, others) =>
    others.length === weights.length &&
    doubts.length === weights.length + 1 &&
    others.every((o) => o === input)
      ? input
      : null,
  start({ own, weights, doubts }, { budget, otherBudgets }) {
    const factors = [own, ...weights];
    const budgets = [budget, ...otherBudgets];
    const m = { all: factors.map(() => Number.NaN), atS: Number.NaN };
    return {
      memory: m,
      reading(t, x, others) {
        m.all = [x, ...others];
        m.atS = t;
      },
      now() {
        if (Number.isNaN(m.atS)) return none('No reading yet.');
        if (!m.all.every(Number.isFinite)) return none('Each of the channels must read.');
        const parts = m.all.map((x, k) => factors[k]! * x);
        const u = Math.hypot(
          ...m.all.flatMap((x, k) => {
            const { systematic, noise } = budgets[k]!(x);
            return [factors[k]! * systematic, factors[k]! * noise, doubts[k]! * x];
          }),
        );
        const [mine, ...theirs] = parts as [number, ...number[]];
        const taken = theirs.reduce((a, b) => a + b, 0);
        return figure(mine + taken, u, m.atS, `${inFew(mine)} of its own, ${inFew(taken)} for the others.`);
      },
    };
  },
};

const inFew = (v: number) => String(Number(v.toPrecision(4)));
