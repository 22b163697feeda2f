import { Type } from 'typebox';
import { choice, unitChoice } from '../../stage/params.ts';
import { combinedUnits, UNITS, type UnitId } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';

/** Longer apart than so many usual steps, readings have something missing between them. */
const GAP = 5;

/** What such a sum is usually told in. */
const USUAL: readonly UnitId[] = ['Wh', 'mAh', '1', 'm', 'Ns'];

/** Sum over time: energy of a power, charge of a current, turns of a speed; times another channel if wanted. */
export const integral: FigureKind<{ to: string; counts: string }> = {
  kind: 'integral',
  title: 'Sum over time',
  summary: 'Energy from power, charge from current or turns from speed, since reset',
  params: Type.Object({
    to: unitChoice(),
    counts: choice('Values to add up', ['both ways', 'only above zero', 'only below zero', 'sizes']),
  }),
  defaults: { to: 'Wh', counts: 'both ways' },
  roles: {},
  others: 'several',
  levels: [],
  fromNothing: 'grows',
  defaultsFor(input, others) {
    const product = others.length === 1 ? combinedUnits(input, others[0]!) : [input];
    const fits = USUAL.find((u) => product.some((p) => isIntegral(u, p)));
    const any = product[0] && combinedUnits(product[0], 's')[0];
    return { to: fits ?? any ?? 'Wh', counts: 'both ways' };
  },
  unit({ to }, input, others) {
    const wanted = to as UnitId;
    if (!UNITS[wanted] || others.length > 1) return null;
    // Watt-hours of volts and amperes as of watts.
    const product = others.length === 1 ? combinedUnits(input, others[0]!) : [input];
    return product.some((p) => isIntegral(wanted, p)) ? wanted : null;
  },
  start({ to, counts }, { unit, otherUnits, budget, otherBudgets, clockShare, meansOfSteps = false }) {
    const scale =
      (UNITS[unit].scale * (otherUnits[0] ? UNITS[otherUnits[0]].scale : 1)) / UNITS[to as UnitId].scale;
    const part =
      counts === 'only above zero'
        ? (v: number) => Math.max(0, v)
        : counts === 'only below zero'
          ? (v: number) => Math.max(0, -v)
          : counts === 'sizes'
            ? Math.abs
            : (v: number) => v;
    const m = {
      t: Number.NaN,
      v: Number.NaN,
      sum: 0,
      lost: 0,
      // Time-weighted sums to tell what the readings' uncertainty comes to.
      seconds: 0,
      size: 0,
      /** Of the reading and of the other channel, each by itself. */
      own: 0,
      other: 0,
      n: 0,
      gapS: 0,
      /** Usual step between readings, s: a rate gives them as they come. */
      usual: 0,
    };
    return {
      memory: m,
      reading(t, x, others) {
        const v = part(others.length > 0 ? x * others[0]! : x);
        if (v !== v) return;
        const step = t - m.t;
        if (step > 0) {
          if (m.n > 0 && step > GAP * m.usual) m.gapS += step;
          else m.usual += m.n === 0 ? step : (step - m.usual) / 8;
          // Kahan's compensation: days of readings are added up.
          const add = (meansOfSteps ? v : (m.v + v) / 2) * step - m.lost;
          const next = m.sum + add;
          m.lost = next - m.sum - add;
          m.sum = next;
          m.seconds += step;
          m.size += Math.abs(v) * step;
          m.own += Math.abs(x) * step;
          m.other += Math.abs(others[0] ?? 0) * step;
          m.n++;
        }
        m.t = t;
        m.v = v;
      },
      now() {
        if (m.n === 0) return none('Waiting for readings.');
        const value = m.sum * scale;
        const usual = m.size / m.seconds;
        // What the constants are off by adds up all along; noise hardly does. Of a product each takes its share.
        const worth = (size: number, of: typeof budget) => {
          const { systematic, noise } = of(size);
          return Math.hypot(systematic, noise / Math.sqrt(m.n));
        };
        const [own, other] = [m.own / m.seconds, m.other / m.seconds];
        const ofReadings =
          otherUnits.length === 0
            ? worth(usual, budget)
            : Math.hypot(worth(own, budget) * other, worth(other, otherBudgets[0]!) * own);
        const u = Math.hypot(ofReadings * m.seconds, clockShare * m.sum) * Math.abs(scale);
        const gap =
          m.gapS > 0 ? ` Includes ${m.gapS.toFixed(1)} s without readings, filled with a straight line.` : '';
        return figure(value, u, m.t, `Over ${m.seconds.toFixed(1)} s, ${m.n + 1} readings.${gap}`);
      },
    };
  },
};

/** Whether a unit is one of a quantity times second. */
function isIntegral(wanted: UnitId, of: UnitId): boolean {
  return combinedUnits(of, 's').some((u) => UNITS[u].dimension === UNITS[wanted].dimension);
}
