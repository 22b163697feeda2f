import { Type } from 'typebox';
import { choice, number } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { firstBelow } from '../firstBelow.ts';
import { slopeOf } from '../slopeOf.ts';

/** Standard deviation of what lies anywhere between two readings, in their distance. */
const ANYWHERE = 1 / Math.sqrt(12);

/** Voltages that are kept to tell how fast it falls. */
const RECENT = 60;

/** What a cell gave from full to its cut-off: charge or energy, from current and voltage. */
export const capacity: FigureKind<{ cutOffV: number; leastA: number; gives: string }> = {
  kind: 'capacity',
  title: 'Capacity to cutoff',
  summary: 'Charge or energy from a cell until its voltage falls to the cutoff',
  params: Type.Object({
    cutOffV: number('Cutoff voltage', { above: 0, max: 100, unit: 'V' }),
    leastA: number('Discharging when above', { above: 0, max: 1000, unit: 'A' }),
    gives: choice('Result in', ['mAh', 'Wh']),
  }),
  defaults: { cutOffV: 3, leastA: 0.05, gives: 'mAh' },
  roles: {},
  others: ['the cell voltage'],
  levels: [],
  unit: ({ gives }, input, others) =>
    UNITS[input].dimension === 'current' && others.length === 1 && UNITS[others[0]!].dimension === 'voltage'
      ? (gives as 'mAh' | 'Wh')
      : null,
  start({ cutOffV, leastA, gives }, context) {
    const { unit, otherUnits, budget, otherBudgets, clockShare, sampleRateHz } = context;
    const fresh = () => ({
      sum: 0,
      seconds: 0,
      size: 0,
      n: 0,
      t: Number.NaN,
      i: Number.NaN,
      v: Number.NaN,
      /** Newest voltages, to tell how fast it falls at the end. */
      recent: { t: [] as number[], v: [] as number[] },
    });
    const m = {
      now: fresh(),
      running: false,
      ended: null as null | (ReturnType<typeof fresh> & { full: boolean; endV: number }),
    };
    const perSecond = gives === 'Wh' ? 1 / 3600 : 1000 / 3600;
    const add = (t: number, i: number, v: number) => {
      const { now } = m;
      const step = t - now.t;
      if (step > 0) {
        const size = (a: number, b: number) => (gives === 'Wh' ? a * b : a);
        now.sum += ((size(now.i, now.v) + size(i, v)) / 2) * step;
        now.size += ((now.i + i) / 2) * step;
        now.seconds += step;
        now.n++;
      }
      Object.assign(now, { t, i, v });
      const { recent } = now;
      recent.t.push(t);
      recent.v.push(v);
      if (recent.t.length <= RECENT) return;
      recent.t.shift();
      recent.v.shift();
    };
    return {
      memory: m,
      reading(t, x, [volts]) {
        const i = x * UNITS[unit].scale;
        const v = volts! * UNITS[otherUnits[0]!].scale;
        if (v !== v) return;
        if (!m.running) {
          // A cell that was empty already, or one that goes on after its end, is not emptied again.
          if (i < leastA || v <= cutOffV || m.ended?.full) {
            if (i < leastA && m.ended?.full) m.ended = { ...m.ended, full: true };
            Object.assign(m.now, { t, i, v });
            return;
          }
          m.running = true;
          // It was switched on anywhere since the reading before: half of that is counted.
          const sinceS = Number.isNaN(m.now.t) ? 0 : Math.min(t - m.now.t, 1 / sampleRateHz) / 2;
          m.now = { ...fresh(), t: t - sinceS, i, v };
          add(t, i, v);
          m.ended = null;
          return;
        }
        if (i < leastA) {
          m.ended = { ...m.now, full: false, endV: m.now.v };
          m.running = false;
          m.now = { ...fresh(), t, i, v };
        } else if (v <= cutOffV) {
          const share = (m.now.v - cutOffV) / (m.now.v - v);
          add(m.now.t + share * (t - m.now.t), m.now.i + share * (i - m.now.i), cutOffV);
          m.ended = { ...m.now, full: true, endV: cutOffV };
          m.running = false;
          m.now = { ...fresh(), t, i, v };
        } else add(t, i, v);
      },
      now() {
        const of = m.ended ?? (m.running ? m.now : null);
        if (!of || of.n === 0) return none('Waiting for the discharge to start.');
        const meanA = of.size / of.seconds;
        const { systematic } = budget(meanA / UNITS[unit].scale);
        const share = Math.hypot((systematic * UNITS[unit].scale) / meanA, clockShare);
        const value = of.sum * perSecond;
        // Energy has the share of the voltage too: at its mean, weighted by the current.
        const voltsScale = UNITS[otherUnits[0]!].scale;
        const meanV = of.sum / of.size;
        const ofVolts =
          gives === 'Wh' ? (otherBudgets[0]!(meanV / voltsScale).systematic * voltsScale) / meanV : 0;
        // A voltage that is off meets the cut-off sooner or later: by more, the slower it falls there.
        const fall = m.ended?.full ? slopeOf(of.recent.t, of.recent.v) : null;
        const ofVoltage = otherBudgets[0]!(cutOffV / voltsScale);
        const perSecondV = Math.abs(fall?.tangent?.slope ?? fall?.slope ?? 0) / voltsScale;
        const first = firstBelow((ofVoltage.noise * sampleRateHz) / perSecondV);
        const endS = fall ? Math.hypot(ofVoltage.systematic, first * ofVoltage.noise) / perSecondV : 0;
        const atEnd = endS * (gives === 'Wh' ? of.i * cutOffV : of.i) * perSecond;
        const atStart = (value / of.seconds / sampleRateHz) * ANYWHERE;
        const u = Math.hypot(value * share, value * ofVolts, atStart, atEnd);
        const how = m.running
          ? `So far ${of.seconds.toFixed(0)} s at ${meanA.toFixed(3)} A; cutoff not reached yet.`
          : m.ended!.full
            ? `To ${cutOffV} V in ${of.seconds.toFixed(0)} s at ${meanA.toFixed(3)} A.`
            : `Stopped at ${m.ended!.endV.toFixed(3)} V, before the cutoff: the capacity is larger.`;
        return figure(value, u, of.t, how);
      },
    };
  },
};
