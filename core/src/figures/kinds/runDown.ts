import { Type } from 'typebox';
import { crossingTime } from '../../detect/index.ts';
import { choice, number } from '../../stage/params.ts';
import { UNITS } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { slopeOf } from '../slopeOf.ts';
import { plusMinus } from '../words.ts';

/** A run has begun once the reading is so many times what still counts as standing. */
const START = 3;

/** Run-up and run-down: how long a wheel takes to its speed, or from it to a standstill, and how fast it dies away. */
export const runDown: FigureKind<{
  gives: string;
  standstill: number;
  share: number;
  behindTurns: number;
  edges: number;
}> = {
  kind: 'run-down',
  title: 'Spin-up and run-down',
  summary: 'Time from standstill to speed or from speed to standstill, or the run-down time constant',
  params: Type.Object({
    gives: choice('Result', ['run-down time', 'run-up time', 'time constant']),
    standstill: number('Standstill below', { min: 0 }),
    share: number('At speed above (share of the highest)', { above: 0, below: 1 }),
    behindTurns: number('Delay of the reading', { min: 0, max: 10, unit: 'turns' }),
    edges: number('Edges per turn (0 = none)', { min: 0, max: 10000 }),
  }),
  defaults: { gives: 'run-down time', standstill: 1, share: 0.95, behindTurns: 0, edges: 0 },
  roles: {},
  others: [],
  levels: ['standstill'],
  unit: () => 's',
  start({ gives, standstill, share, behindTurns, edges }, { clockShare, unit }) {
    // A mean over a turn belongs to the middle of that turn, and it is read with the next edge, half of one late on average:
    // both lie the further back the slower it turns.
    const turnsBack = behindTurns + (edges > 0 ? 0.5 / edges : 0);
    const isRate = UNITS[unit].dimension === 'frequency';
    const behindS = (speed: number) => (isRate ? turnsBack / (speed * UNITS[unit].scale) : 0);
    /** A turn at standstill, s: the longest after which an edge may still lift the reading once more. */
    const turnS = isRate && turnsBack > 0 ? 1 / (standstill * UNITS[unit].scale) : 0;
    const m = {
      t: Number.NaN,
      x: Number.NaN,
      running: false,
      /** Last crossing of standstill upwards, and the one that the run began with. */
      upS: Number.NaN,
      startS: Number.NaN,
      top: 0,
      /** Readings since the highest, thinned, to find when it left its speed. */
      fall: { t: [] as number[], x: [] as number[] },
      climb: { t: [] as number[], x: [] as number[] },
      runUp: Number.NaN,
      runUpS: Number.NaN,
      runDown: Number.NaN,
      constant: Number.NaN,
      constantU: Number.NaN,
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
          m.upS = x0 < standstill ? crossingTime(t0, x0, t, x, standstill) : Number.NaN;
          m.upStepS = t - t0;
        }
        if (!m.running) {
          if (x >= START * standstill) {
            Object.assign(m, {
              running: true,
              startS: m.upS,
              top: x,
              climb: { t: [t], x: [x] },
              fall: { t: [t], x: [x] },
            });
          } else if (x < standstill && x0 >= standstill && Number.isFinite(m.runDown)) {
            // A last edge lifts it once more before it stands: the standstill is when it stays below.
            m.runDown += crossingTime(t0, x0, t, x, standstill) - m.endS;
            m.endS = crossingTime(t0, x0, t, x, standstill);
          }
          return;
        }
        if (x >= standstill) {
          keep(m.climb, t, x);
          m.top = Math.max(m.top, x);
          if (x >= share * m.top) m.fall = { t: [t], x: [x] };
          else keep(m.fall, t, x);
          return;
        }
        m.running = false;
        m.endS = crossingTime(t0, x0, t, x, standstill);
        m.stepS = t - t0;
        m.runDown = m.endS - behindS(standstill) - (m.fall.t[0]! - behindS(m.fall.x[0]!));
        const constant = constantOf(m.fall, m.top);
        m.constant = constant.s;
        m.constantU = constant.u;
        const at = m.climb.x.findIndex((v) => v >= share * m.top);
        m.runUp = Number.isFinite(m.startS) ? m.climb.t[at]! - m.startS : Number.NaN;
        m.runUpS = m.climb.t[at] ?? Number.NaN;
      },
      now() {
        if (gives === 'run-up time') {
          const at = m.climb.x.findIndex((v) => v >= share * m.top);
          const running = m.running && at > 0 && Number.isFinite(m.startS);
          const took = running ? m.climb.t[at]! - m.startS : m.runUp;
          if (!Number.isFinite(took)) return none('Waiting for a start from standstill.');
          const u = Math.hypot(m.upStepS / 2, clockShare * took);
          return figure(
            took,
            u,
            running ? m.climb.t[at]! : m.runUpS,
            `From ${standstill} to ${Math.round(100 * share)} % of the highest reading, ${m.top.toPrecision(4)}; uncertainty ${plusMinus(u, 's')}.`,
          );
        }
        if (Number.isNaN(m.runDown)) return none('Waiting for a run-down to standstill.');
        if (!m.running && !(m.x < standstill && m.t - m.endS >= turnS))
          return none(`Below ${standstill}; result follows after one more turn below it.`);
        if (gives === 'time constant')
          return Number.isFinite(m.constant)
            ? figure(
                m.constant,
                Math.hypot(m.constantU, clockShare * m.constant),
                m.endS,
                'From a straight line through the logarithm of the readings during run-down.',
              )
            : none('Too few readings during run-down for a time constant.');
        // Either end between two readings; the end anywhere between two edges, and a thirtieth of the last turn for what a
        // mean over a turn that slows down lies beside its middle.
        const left = Math.hypot(
          edges > 0 ? turnS / edges / Math.sqrt(12) : 0,
          behindTurns > 0 ? turnS / 30 : 0,
        );
        const u = Math.hypot(m.stepS / Math.sqrt(6), left, clockShare * m.runDown);
        return figure(
          m.runDown,
          u,
          m.endS,
          `From ${Math.round(100 * share)} % of the highest speed down to ${standstill}${behindTurns > 0 ? `, corrected for the delay of the mean over a turn` : ''}.`,
        );
      },
    };
  },
};

const MOST = 2000;

/** Keeps a curve; of a long one every second reading. */
function keep(curve: { t: number[]; x: number[] }, t: number, x: number): void {
  curve.t.push(t);
  curve.x.push(x);
  if (curve.t.length <= MOST) return;
  curve.t = curve.t.filter((_, i) => i % 2 === 0);
  curve.x = curve.x.filter((_, i) => i % 2 === 0);
}

/** Time constant of the fall, s: of the straight line through the logarithm of the readings. */
function constantOf({ t, x }: { t: number[]; x: number[] }, top: number): { s: number; u: number } {
  const used = t.map((_, i) => i).filter((i) => x[i]! > 0.15 * top && x[i]! < 0.9 * top);
  const line =
    used.length < 5
      ? null
      : slopeOf(
          used.map((i) => t[i]!),
          used.map((i) => Math.log(x[i]!)),
          // Noise that is the same all along is more of a logarithm the further it has fallen.
          used.map((i) => x[i]! ** 2),
        );
  return line && line.slope < 0
    ? { s: -1 / line.slope, u: line.u / line.slope ** 2 }
    : { s: Number.NaN, u: Number.NaN };
}
