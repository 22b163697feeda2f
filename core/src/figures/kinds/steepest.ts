import { Type } from 'typebox';
import { ratePerSecondUnit } from '../../units/index.ts';
import { noHighest, noiseOfHighest, takeSize } from '../highestOf.ts';
import { figure, none, type FigureKind } from '../kind.ts';

/** Fastest change between readings since the reset: the jerk, of an acceleration. */
export const steepest: FigureKind<Record<string, never>> = {
  kind: 'steepest',
  title: 'Fastest change',
  summary: 'Fastest change between two readings since reset (for acceleration: the jerk)',
  params: Type.Object({}),
  defaults: {},
  roles: {},
  others: [],
  levels: [],
  unit: (_params, input) => ratePerSecondUnit(input) ?? null,
  start(_params, { budget, sampleRateHz }) {
    const m = {
      t: Number.NaN,
      x: Number.NaN,
      value: Number.NaN,
      atS: Number.NaN,
      from: Number.NaN,
      to: Number.NaN,
      highest: noHighest(),
    };
    const noise = (x: number) => Math.SQRT2 * budget(x).noise * sampleRateHz;
    return {
      memory: m,
      reading(t, x) {
        const slope = (x - m.x) / (t - m.t);
        if (t - m.t < 2.5 / sampleRateHz && takeSize(m.highest, Math.abs(slope), noise(x))) {
          m.value = slope;
          m.atS = t;
          m.from = m.x;
          m.to = x;
        }
        m.t = t;
        m.x = x;
      },
      now() {
        if (Number.isNaN(m.value)) return none('Two readings are needed.');
        return figure(
          m.value,
          Math.hypot(noiseOfHighest(m.highest) * noise(m.to), budget.apart(m.from, m.to) * sampleRateHz),
          m.atS,
          'Between two neighbouring readings.',
        );
      },
    };
  },
};
