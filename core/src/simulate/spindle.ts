import { seededRandom } from '../numerics/index.ts';
import { makeWorld } from './makeWorld.ts';
import type { World } from './world.ts';

export interface SpindleTruth {
  readonly kind: 'spindle';
  readonly seed: number;
  readonly marks: number;
  /** Places of the marks, shares of a turn: not quite even. */
  readonly places: readonly number[];
  readonly rpm: number;
  readonly clockPpm: number;
  readonly glitchShare: number;
}

export function drawSpindle(seed: number): SpindleTruth {
  const random = seededRandom(seed);
  const marks = 4;
  return {
    kind: 'spindle',
    seed,
    marks,
    places: Array.from({ length: marks }, (_, k) => (k + 0.5) / marks + 0.006 * random.normal()).sort(
      (a, b) => a - b,
    ),
    rpm: 118 + 4 * random.normal(),
    clockPpm: 30 * random.normal(),
    glitchShare: 0.02,
  };
}

/** The stone spindle with magnets on it: a running count of edges and the board's time stamp of the last one, in microseconds. */
export function spindle(truth: SpindleTruth): World {
  const random = seededRandom(truth.seed);
  let timeS = 0;
  let turns = 0;
  let edges = 0;
  let lastUs = 0;
  let speed = 0;
  const aim: Readonly<Record<string, number>> = { stopped: 0, running: 1, 'run-down': 0, glitches: 1 };
  // Marks are counted through, so that no rounding of the turns can bring one twice.
  let mark = 0;
  const next = () => Math.floor(mark / truth.marks) + truth.places[mark % truth.marks]!;
  const stamp = (t: number) => Math.round(t * 1e6 * (1 + truth.clockPpm * 1e-6));
  return makeWorld({
    columns: ['edges', 'edge_us'],
    conditions: [
      { id: 'stopped', title: 'Stopped' },
      { id: 'running', title: 'Water on: spin-up, then steady' },
      { id: 'run-down', title: 'Water off: run-down' },
      { id: 'glitches', title: 'Running, sensor contact bouncing' },
    ],
    step(dtS, condition) {
      const target = (truth.rpm / 60) * aim[condition]!;
      const before = speed;
      speed += (target - speed) * (1 - Math.exp(-dtS / (condition === 'run-down' ? 14 : 5)));
      if (target === 0 && speed < 0.02) speed = 0;
      const mean = (before + speed) / 2;
      const end = turns + mean * dtS;
      const from = turns;
      for (let at = next(); at <= end && mean > 0; at = next()) {
        const t = timeS + ((at - from) / (end - from)) * dtS;
        mark++;
        edges++;
        lastUs = stamp(t);
        if (condition === 'glitches' && random.uniform() < truth.glitchShare * 5) {
          edges++;
          lastUs = stamp(t + 0.0004);
        }
      }
      turns = end;
      timeS += dtS;
      return [edges, lastUs];
    },
    instruments: () => [
      { title: 'Strobe lamp', value: Number((60 * speed).toFixed(1)), unit: 'rpm', uncertainty: 0.3 },
      { title: 'Turns since start', value: Number(turns.toFixed(2)), unit: '1', uncertainty: 0.05 },
    ],
  });
}
