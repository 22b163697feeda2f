import { Type } from 'typebox';
import { figure, none, type FigureKind } from '../kind.ts';

/** Highest less lowest of several channels at the same moment. */
export const spread: FigureKind<Record<string, never>> = {
  kind: 'spread',
  title: 'Spread between channels',
  summary: 'Highest minus lowest of several channels at the same time',
  params: Type.Object({}),
  defaults: {},
  roles: {},
  others: 'several',
  levels: [],
  unit: (_params, input, others) =>
    others.length > 0 && others.every((o) => o === input) ? (input === 'degC' ? 'K' : input) : null,
  start(_params, { budget, otherBudgets }) {
    const budgets = [budget, ...otherBudgets];
    const m = { high: Number.NaN, low: Number.NaN, highest: 0, lowest: 0, atS: Number.NaN, n: 0 };
    return {
      memory: m,
      reading(t, x, others) {
        const all = [x, ...others];
        const good = all.filter(Number.isFinite);
        if (good.length < 2) return;
        const [high, low] = [Math.max(...good), Math.min(...good)];
        Object.assign(m, { high, low, atS: t, n: good.length });
        Object.assign(m, { highest: all.indexOf(high), lowest: all.indexOf(low) });
      },
      now() {
        if (m.n < 2) return none('At least two channels need a reading.');
        const [a, b] = [budgets[m.highest]!(m.high), budgets[m.lowest]!(m.low)];
        // Each channel has constants of its own.
        const u = Math.hypot(a.systematic, a.noise, b.systematic, b.noise);
        return figure(m.high - m.low, u, m.atS, `Of ${m.n} channels.`);
      },
    };
  },
};
