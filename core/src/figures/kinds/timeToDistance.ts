import { Type } from 'typebox';
import { number } from '../../stage/params.ts';
import { convertUnit, UNITS } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { plusMinus } from '../words.ts';

/** Time from a start until a distance is covered, from speed summed over time. */
export const timeToDistance: FigureKind<{ distanceM: number }> = {
  kind: 'time-to-distance',
  title: 'Time to distance',
  summary: 'Time from a start until a distance is covered, with distance calculated from speed',
  params: Type.Object({ distanceM: number('Distance', { above: 0, max: 1e6, unit: 'm' }) }),
  defaults: { distanceM: 20 },
  roles: { from: { title: 'Start', wants: 'begin' } },
  others: [],
  levels: [],
  unit: (_params, input) => (UNITS[input].dimension === 'speed' ? 's' : null),
  start({ distanceM }, { unit, budget, clockShare, sampleRateHz }) {
    const m = {
      from: null as { timeS: number; u: number } | null,
      /** Readings since before the start: it is told only after it happened. */
      t: [] as number[],
      v: [] as number[],
      last: null as { timeS: number; seconds: number; u: number } | null,
    };
    const most = Math.min(100_000, Math.ceil(20 * sampleRateHz) + 10);
    const settle = () => {
      const { from, t, v } = m;
      let along = 0;
      let since = 0;
      for (let i = 1; i < t.length; i++) {
        if (t[i]! <= from!.timeS) continue;
        const begin = Math.max(t[i - 1]!, from!.timeS);
        const share = (begin - t[i - 1]!) / (t[i]! - t[i - 1]!);
        const v0 = v[i - 1]! + share * (v[i]! - v[i - 1]!);
        const step = ((v0 + v[i]!) / 2) * (t[i]! - begin);
        since++;
        if (along + step >= distanceM) {
          const at = begin + ((distanceM - along) / step) * (t[i]! - begin);
          const took = at - from!.timeS;
          const { systematic, noise } = budget(convertUnit(v[i]!, 'mps', unit));
          const scale = UNITS[unit].scale;
          // What the speed is off by all along, its noise shrunk by the sum, and a start that is off, over the last speed.
          const metres = Math.hypot(systematic * scale * took, (noise * scale * took) / Math.sqrt(since));
          const u = Math.hypot(from!.u, metres / v[i]!, clockShare * took);
          m.last = { timeS: at, seconds: took, u };
          m.from = null;
          return;
        }
        along += step;
      }
    };
    return {
      memory: m,
      event(_role, e) {
        m.from = { timeS: e.timeS, u: e.uTimeS };
      },
      reading(t, x) {
        m.t.push(t);
        m.v.push(convertUnit(x, unit, 'mps'));
        if (!m.from && m.t.length > most) {
          m.t.splice(0, most >> 1);
          m.v.splice(0, most >> 1);
        }
        if (m.from) settle();
      },
      now() {
        const { last, from } = m;
        if (!last) return none(from ? 'Started. Distance not covered yet.' : 'Waiting for the start.');
        return figure(
          last.seconds,
          last.u,
          last.timeS,
          `${distanceM} m, calculated from speed. Uncertainty from start, speed and clock: ${plusMinus(last.u, 's')}.`,
        );
      },
    };
  },
};
