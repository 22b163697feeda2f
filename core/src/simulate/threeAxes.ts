import { seededRandom, type Random } from '../numerics/index.ts';
import { makeWorld, toCode } from './makeWorld.ts';
import type { World } from './world.ts';

export interface ThreeAxesTruth {
  readonly kind: 'three-axes';
  readonly seed: number;
  /** "shaker" for the sieve, "hoist" for the sack hoist. */
  readonly ride: 'shaker' | 'hoist';
  /** counts = scale (3 x 3, row by row, counts a g) g + offset. */
  readonly scale: readonly number[];
  readonly offset: readonly number[];
  readonly noiseCounts: number;
  /** Codes end at plus and minus this: the range setting. */
  readonly fullCode: number;
  readonly strokesPerMin: number;
}

export function drawThreeAxes(seed: number, ride: ThreeAxesTruth['ride']): ThreeAxesTruth {
  const random = seededRandom(seed);
  const perG = ride === 'shaker' ? 4096 : 2048;
  return {
    kind: 'three-axes',
    seed,
    ride,
    scale: [0, 1, 2].flatMap((r) =>
      [0, 1, 2].map((c) => perG * (r === c ? 1 + 0.02 * random.normal() : 0.004 * random.normal())),
    ),
    offset: [0, 1, 2].map(() => perG * 0.03 * random.normal()),
    noiseCounts: 12,
    fullCode: 32767,
    strokesPerMin: 96 + 3 * random.normal(),
  };
}

const RESTS: Readonly<Record<string, readonly [number, number, number]>> = {
  'x-up': [1, 0, 0],
  'x-down': [-1, 0, 0],
  'y-up': [0, 1, 0],
  'y-down': [0, -1, 0],
  'z-up': [0, 0, 1],
  'z-down': [0, 0, -1],
};

/** A three-axis acceleration sensor: six rests, strokes of the sieve, a ride on the hoist, or being carried about. */
export function threeAxes(truth: ThreeAxesTruth): World {
  const random = seededRandom(truth.seed);
  const motion = truth.ride === 'shaker' ? 'shaking' : 'ride';
  return makeWorld({
    columns: ['ax', 'ay', 'az'],
    conditions: [
      { id: 'z-up', title: 'At rest, z up' },
      { id: 'z-down', title: 'At rest, z down' },
      { id: 'x-up', title: 'At rest, x up' },
      { id: 'x-down', title: 'At rest, x down' },
      { id: 'y-up', title: 'At rest, y up' },
      { id: 'y-down', title: 'At rest, y down' },
      truth.ride === 'shaker'
        ? { id: 'shaking', title: 'On the running sieve' }
        : { id: 'ride', title: 'Hoist ride' },
      { id: 'handling', title: 'Handling only' },
    ],
    step(_dtS, condition, sinceS) {
      const rest = RESTS[condition];
      const g = rest ?? (condition === motion ? moving(truth, sinceS) : handled(sinceS, random));
      return [0, 1, 2].map((r) => {
        const counts = truth.offset[r]! + [0, 1, 2].reduce((s, c) => s + truth.scale[3 * r + c]! * g[c]!, 0);
        return toCode(counts + truth.noiseCounts * random.normal(), -truth.fullCode - 1, truth.fullCode);
      });
    },
    instruments: (condition, sinceS) => [
      ...(truth.ride === 'shaker'
        ? [
            {
              title: 'Strokes counted by hand',
              value: condition === 'shaking' ? Math.floor((sinceS * truth.strokesPerMin) / 60) : 0,
              unit: 'count' as const,
              uncertainty: 1,
            },
          ]
        : []),
      { title: 'Gravity', value: 1, unit: 'gn', uncertainty: 0.001 },
    ],
  });
}

/** What is felt along the hoist, g, until when, s: start, cruise, a stop with a jerk, a short drop, rest. */
export const HOIST_RIDE = [
  [1, 1],
  [1.3, 2],
  [1, 6],
  [0.2, 6.2],
  [1.9, 6.5],
  [1, 9],
  [0.05, 9.25],
  [3.2, 9.3],
  [1, Infinity],
] as const;

/** A rope stretches: from one to the next it takes so long, half of it before, s. */
export const HOIST_CHANGE_S = 0.02;

function alongHoist(t: number): number {
  const at = HOIST_RIDE.findIndex(([, until]) => t < until + HOIST_CHANGE_S / 2);
  const [g, until] = HOIST_RIDE[at]!;
  const share = Math.max(0, (t - until) / HOIST_CHANGE_S + 0.5);
  return share > 0 ? g + share * (HOIST_RIDE[at + 1]![0] - g) : g;
}

/** Sieve: a stroke each period along x. Hoist: a ride. */
function moving(truth: ThreeAxesTruth, t: number): [number, number, number] {
  if (truth.ride === 'shaker') {
    const phase = (2 * Math.PI * truth.strokesPerMin * t) / 60;
    return [0.9 * Math.sin(phase) + 0.15 * Math.sin(2 * phase + 1), 0.1 * Math.sin(phase + 0.5), 1];
  }
  const along = alongHoist(t);
  return [0.02 * Math.sin(40 * t), 0.02 * Math.cos(33 * t), along];
}

function handled(t: number, random: Random): [number, number, number] {
  return [
    0.2 * Math.sin(0.7 * t) + 0.05 * random.normal(),
    0.2 * Math.sin(0.45 * t + 1),
    0.95 + 0.1 * Math.sin(0.3 * t),
  ];
}
