import { Type } from 'typebox';
import { figure, none, type FigureKind } from '../kind.ts';

/** Highest less lowest of several channels at the same moment. */
export const spread: FigureKind<Record<string, never>> = {
  kind: 'spread',
  title: 'Spread between channels',
  summary: 'Highest less lowest of several channels at the same moment',
  params: Type.Object({}),
  defaults: {},
  roles: {},
  others: 'several',
  levels: [],
  unit: (_params, input, others) =>
    others.length > 0 && others.every((o) => o === input) ? (input === 'degC' ? 'K' : input) : null,
  start(_params, { budget }) {
    const m = { high: Number.NaN, low: Number.NaN, atS: Number.NaN, n: 0 };
    return {
      memory: m,
      reading(t, x, others) {
        const good = [x, ...others].filter(Number.isFinite);
        if (good.length < 2) return;
        Object.assign(m, { high: Math.max(...good), low: Math.min(...good), atS: t, n: good.length });
      },
      now() {
        if (m.n < 2) return none('Two channels must read.');
        const [a, b] = [budget(m.high), budget(m.low)];
        // Each channel has constants of its own.
        const u = Math.hypot(a.systematic, a.noise, b.systematic, b.noise);
        return figure(m.high - m.low, u, m.atS, `Of ${m.n} channels.`);
      },
    };
  },
};
