import { Type } from 'typebox';
import { choice, number } from '../../stage/params.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { plusMinus, seconds } from '../words.ts';

/** Run-up and run-down: how long a wheel takes to its speed, or from it to a standstill, and how fast it dies away. */
export const runDown: FigureKind<{ gives: string; standstill: number; share: number }> = {
  kind: 'run-down',
  title: 'Run-up and run-down',
  summary: 'Time from standstill to speed, from speed to standstill, or the time constant of a run-down',
  params: Type.Object({
    gives: choice('Gives', ['run-down time', 'run-up time', 'time constant']),
    standstill: number('Stands below', { min: 0 }),
    share: number('At speed above, of the highest', { above: 0, below: 1 }),
  }),
  defaults: { gives: 'run-down time', standstill: 1, share: 0.95 },
  roles: {},
  others: [],
  levels: ['standstill'],
  unit: () => 's',
  start({ gives, standstill, share }, { clockShare }) {
    const m = {
      t: Number.NaN,
      x: Number.NaN,
      /** Last crossing of standstill upwards and the highest since then. */
      upS: Number.NaN,
      top: 0,
      topS: Number.NaN,
      /** Readings since the highest, thinned, to find when it left its speed. */
      fall: { t: [] as number[], x: [] as number[] },
      climb: { t: [] as number[], x: [] as number[] },
      runUp: Number.NaN,
      runUpS: Number.NaN,
      runDown: Number.NaN,
      constant: Number.NaN,
      endS: Number.NaN,
      stepS: 0,
      upStepS: 0,
    };
    return {
      memory: m,
      reading(t, x) {
        const { t: t0, x: x0 } = m;
        m.t = t;
        m.x = x;
        if (x >= standstill && !(x0 >= standstill)) {
          m.upS = x0 < standstill ? cross(t0, x0, t, x, standstill) : Number.NaN;
          m.upStepS = t - t0;
          m.top = x;
          m.climb = { t: [t], x: [x] };
          m.fall = { t: [t], x: [x] };
        } else if (x >= standstill) {
          keep(m.climb, t, x);
          if (x > m.top) {
            m.top = x;
            m.topS = t;
          }
          if (x >= share * m.top) m.fall = { t: [t], x: [x] };
          else keep(m.fall, t, x);
        } else if (x0 >= standstill) {
          const endS = cross(t0, x0, t, x, standstill);
          const leftS = m.fall.t[0]!;
          m.stepS = t - t0;
          m.runDown = endS - leftS;
          m.endS = endS;
          m.constant = constantOf(m.fall, m.top);
          const at = m.climb.x.findIndex((v) => v >= share * m.top);
          m.runUp = at >= 0 && Number.isFinite(m.upS) ? m.climb.t[at]! - m.upS : Number.NaN;
          m.runUpS = m.climb.t[at] ?? Number.NaN;
        }
      },
      now() {
        if (gives === 'run-up time') {
          const at = m.climb.x.findIndex((v) => v >= share * m.top);
          const running = m.x >= standstill && at > 0 && Number.isFinite(m.upS);
          const took = running ? m.climb.t[at]! - m.upS : m.runUp;
          if (!Number.isFinite(took)) return none('Waiting for a run from standstill.');
          const u = Math.hypot(m.upStepS / 2, clockShare * took);
          return figure(
            took,
            u,
            running ? m.climb.t[at]! : m.runUpS,
            `From ${standstill} to ${Math.round(100 * share)} % of the highest, ${m.top.toPrecision(4)}; ${plusMinus(u)} s.`,
          );
        }
        if (Number.isNaN(m.runDown)) return none('Waiting for a run-down to standstill.');
        if (gives === 'time constant')
          return Number.isFinite(m.constant)
            ? figure(
                m.constant,
                Number.NaN,
                m.endS,
                'By a straight line through the logarithm of the readings on the way down.',
              )
            : none('Too few readings on the way down for a time constant.');
        const u = Math.hypot(m.stepS / Math.sqrt(12), m.stepS / Math.sqrt(12), clockShare * m.runDown);
        return figure(
          m.runDown,
          u,
          m.endS,
          `Below ${Math.round(100 * share)} % at ${seconds(m.endS - m.runDown)}, at ${standstill} at ${seconds(m.endS)}.`,
        );
      },
    };
  },
};

const cross = (t0: number, x0: number, t: number, x: number, level: number) =>
  x === x0 ? t : t0 + ((level - x0) / (x - x0)) * (t - t0);

const MOST = 2000;

/** Keeps a curve; of a long one every second reading. */
function keep(curve: { t: number[]; x: number[] }, t: number, x: number): void {
  curve.t.push(t);
  curve.x.push(x);
  if (curve.t.length <= MOST) return;
  curve.t = curve.t.filter((_, i) => i % 2 === 0);
  curve.x = curve.x.filter((_, i) => i % 2 === 0);
}

function constantOf({ t, x }: { t: number[]; x: number[] }, top: number): number {
  const used = t.map((_, i) => i).filter((i) => x[i]! > 0.15 * top && x[i]! < 0.9 * top);
  if (used.length < 5) return Number.NaN;
  const mt = used.reduce((s, i) => s + t[i]!, 0) / used.length;
  const ml = used.reduce((s, i) => s + Math.log(x[i]!), 0) / used.length;
  let [sxy, sxx] = [0, 0];
  for (const i of used) {
    sxy += (t[i]! - mt) * (Math.log(x[i]!) - ml);
    sxx += (t[i]! - mt) ** 2;
  }
  return sxy < 0 ? -sxx / sxy : Number.NaN;
}
