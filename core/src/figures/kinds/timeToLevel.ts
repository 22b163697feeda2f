import { Type } from 'typebox';
import { crossingFit } from '../../detect/index.ts';
import { number } from '../../stage/params.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { plusMinus } from '../words.ts';

const MOST = 4000;

/** Time from a start until the reading has risen to a level, such as seconds to a set speed. */
export const timeToLevel: FigureKind<{ level: number; fitS: number }> = {
  kind: 'time-to-level',
  title: 'Time to level',
  summary: 'Time from a start until the reading reaches a level',
  params: Type.Object({
    level: number('Level'),
    fitS: number('Fit window', { above: 0, max: 1e5, unit: 's' }),
  }),
  defaults: { level: 10, fitS: 3 },
  roles: { from: { title: 'Start', wants: 'begin' } },
  others: [],
  levels: ['level'],
  unit: () => 's',
  start({ level, fitS }, { budget, clockShare }) {
    const m = {
      from: null as { timeS: number; u: number } | null,
      /** Readings of about the last stretch that is fitted. */
      t: [] as number[],
      x: [] as number[],
      crossedS: Number.NaN,
      last: null as { timeS: number; seconds: number; u: number; slope: number } | null,
    };
    const settle = () => {
      const { from, crossedS, t, x } = m;
      const { systematic, noise } = budget(level);
      const fitted = crossingFit(t, x, level, crossedS, noise);
      const at = fitted?.timeS ?? crossedS;
      const half = t.length >> 1;
      const slope = Math.max(1e-12, (meanOf(x.slice(half)) - meanOf(x.slice(0, half))) / (fitS / 2));
      // What the reading is off by shifts the crossing by as much as the slope is shallow.
      const fromLevel = systematic / slope;
      const took = at - from!.timeS;
      const u = Math.hypot(from!.u, fitted?.uTimeS ?? fitS / 4, fromLevel, clockShare * took);
      m.last = { timeS: at, seconds: took, u, slope };
      m.from = null;
      m.crossedS = Number.NaN;
    };
    return {
      memory: m,
      event(_role, e) {
        m.from = { timeS: e.timeS, u: e.uTimeS };
        m.crossedS = Number.NaN;
      },
      reading(t, x) {
        m.t.push(t);
        m.x.push(x);
        let old = 0;
        while (m.t[old]! < t - fitS || m.t.length - old > MOST) old++;
        if (old > 0) {
          m.t.splice(0, old);
          m.x.splice(0, old);
        }
        if (!m.from || t < m.from.timeS) return;
        // The first reading at the level says about where; the curve is fitted once as much lies behind as before.
        if (Number.isNaN(m.crossedS)) {
          if (x >= level) m.crossedS = t;
        } else if (t - m.crossedS >= fitS / 2) settle();
      },
      now() {
        const { last, from } = m;
        if (!last) return none(from ? 'Started. Level not reached yet.' : 'Waiting for the start.');
        return figure(
          last.seconds,
          last.u,
          last.timeS,
          `Crossing from a parabola through ${fitS} s of readings. Uncertainty from start, crossing and clock: ${plusMinus(last.u, 's')}.`,
        );
      },
    };
  },
};

const meanOf = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / Math.max(1, values.length);
