import { Type } from 'typebox';
import { number } from '../../stage/params.ts';
import { effectiveDegreesOfFreedom, mean, sampleSd, studentTQuantile } from '../../numerics/index.ts';
import { UNITS } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';

/** Inner resistance: how far the voltage moves when the load is switched. */
export const loadStep: FigureKind<{ leastA: number; settleS: number }> = {
  kind: 'load-step',
  title: 'Internal resistance from load steps',
  summary: 'Voltage drop divided by current rise when a load is switched on',
  params: Type.Object({
    leastA: number('Minimum current step', { above: 0, max: 1000, unit: 'A' }),
    settleS: number('Averaging time before and after', { above: 0, max: 1000, unit: 's' }),
  }),
  defaults: { leastA: 0.2, settleS: 5 },
  roles: {},
  others: ['the cell current'],
  levels: [],
  unit: (_params, input, others) =>
    UNITS[input].dimension === 'voltage' && others.length === 1 && UNITS[others[0]!].dimension === 'current'
      ? 'mohm'
      : null,
  start({ leastA, settleS }, { unit, otherUnits, otherBudgets, budget, sampleRateHz }) {
    const wanted = Math.min(1000, Math.max(3, Math.ceil(settleS * sampleRateHz)));
    const m = {
      before: { v: [] as number[], i: [] as number[] },
      after: null as { v: number[]; i: number[]; atS: number } | null,
      last: null as {
        mohm: number;
        u: number;
        atS: number;
        amperes: number;
        volts: number;
        from: Level;
      } | null,
    };
    const settle = () => {
      const { before, after } = m;
      const dI = mean(after!.i) - mean(before.i);
      const dV = mean(after!.v) - mean(before.v);
      const u = errorOf([
        [before.v, 1],
        [after!.v, 1],
        [before.i, dV / dI],
        [after!.i, dV / dI],
      ]);
      m.last = {
        mohm: (-1000 * dV) / dI,
        u: (1000 * u) / Math.abs(dI),
        atS: after!.atS,
        amperes: dI,
        volts: dV,
        from: { v: mean(before.v), i: mean(before.i) },
      };
      m.before = { v: after!.v, i: after!.i };
      m.after = null;
    };
    return {
      memory: m,
      reading(t, x, [current]) {
        const i = current! * UNITS[otherUnits[0]!].scale;
        const v = x * UNITS[unit].scale;
        if (i !== i) return;
        if (m.after) {
          // Another switch before it has settled: that one is measured instead.
          if (Math.abs(i - m.after.i[0]!) >= leastA) m.after = { v: [v], i: [i], atS: t };
          else {
            m.after.v.push(v);
            m.after.i.push(i);
            if (m.after.v.length >= wanted) settle();
          }
          return;
        }
        if (m.before.i.length >= 3 && Math.abs(i - mean(m.before.i)) >= leastA) {
          m.after = { v: [v], i: [i], atS: t };
          return;
        }
        m.before.v.push(v);
        m.before.i.push(i);
        if (m.before.v.length > wanted) {
          m.before.v.shift();
          m.before.i.shift();
        }
      },
      now() {
        const { last } = m;
        if (!last) return none('Waiting for a load step.');
        const share = (from: number, step: number, scale: number, of: typeof budget) =>
          of.apart(from / scale, (from + step) / scale) / (step / scale);
        const scaleOff = Math.hypot(
          share(last.from.v, last.volts, UNITS[unit].scale, budget),
          share(last.from.i, last.amperes, UNITS[otherUnits[0]!].scale, otherBudgets[0]!),
        );
        return figure(
          last.mohm,
          Math.hypot(last.u, last.mohm * scaleOff),
          last.atS,
          `${(1000 * last.volts).toFixed(1)} mV for ${last.amperes.toFixed(3)} A; from noise alone ±${(2 * last.u).toPrecision(2)} mΩ.`,
        );
      },
    };
  },
};

/** Where voltage and current were before the step, V and A. */
interface Level {
  readonly v: number;
  readonly i: number;
}

/**
 * Of a sum of means, each times a factor, so wide that twice of it holds 95 % however few readings they are of.
 * Source: JCGM 100:2008, G.4.1 (Welch and Satterthwaite).
 */
function errorOf(means: readonly (readonly [values: readonly number[], factor: number])[]): number {
  const parts = means
    .filter(([values]) => values.length > 1)
    .map(([values, factor]) => ({
      u: Math.abs(factor * sampleSd(values)) / Math.sqrt(values.length),
      degreesOfFreedom: values.length - 1,
    }));
  const u = Math.hypot(...parts.map((p) => p.u));
  return u > 0 ? (u * studentTQuantile(0.975, effectiveDegreesOfFreedom(u ** 2, parts))) / 2 : 0;
}
