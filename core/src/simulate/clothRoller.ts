import { seededRandom } from '../numerics/index.ts';
import { makeWorld } from './makeWorld.ts';
import type { World } from './world.ts';

export interface ClothRollerTruth {
  readonly kind: 'cloth-roller';
  readonly seed: number;
  readonly perMmX: number;
  readonly perMmY: number;
  readonly skew: number;
  /** Steps that a frame can tell at most: faster cloth is lost. */
  readonly topStepsPerS: number;
  readonly slipShare: number;
}

export function drawClothRoller(seed: number): ClothRollerTruth {
  const random = seededRandom(seed);
  return {
    kind: 'cloth-roller',
    seed,
    perMmX: 39.4 * (1 + 0.02 * random.normal()),
    perMmY: 39.4 * (1 + 0.02 * random.normal()),
    skew: 0.004 * random.normal(),
    topStepsPerS: 20000,
    slipShare: 0,
  };
}

/** Speed along x and y, mm/s, for the first seconds of each condition; every drag covers 300 mm. */
const DRAGS: Readonly<Record<string, readonly [number, number, number]>> = {
  'drag-x': [60, 0, 5],
  'drag-x-back': [-60, 0, 5],
  'drag-y': [0, 60, 5],
  'too-fast': [1200, 0, 0.25],
};

/** An image-shift sensor over sacking cloth: signed steps since the last reading, along a steel rule, or faster than it can see. */
export function clothRoller(truth: ClothRollerTruth): World {
  const random = seededRandom(truth.seed);
  // What has been covered of a step that is not told yet: the roller is set down anywhere.
  const within = seededRandom(truth.seed + 1);
  const rest = [within.uniform() - 0.5, within.uniform() - 0.5];
  return makeWorld({
    columns: ['dx', 'dy'],
    conditions: [
      { id: 'still', title: 'Cloth at rest' },
      { id: 'drag-x', title: '300 mm along the ruler, x' },
      { id: 'drag-x-back', title: '300 mm back, x' },
      { id: 'drag-y', title: '300 mm along the ruler, y' },
      { id: 'too-fast', title: '300 mm, too fast for the sensor' },
    ],
    step(dtS, condition, sinceS) {
      const [vx, vy, lasts] = DRAGS[condition] ?? [0, 0, 0];
      // Only the part of the step that lies within the drag.
      const moving = Math.max(0, Math.min(sinceS, lasts) - Math.max(0, sinceS - dtS));
      const steps = [vx * moving * truth.perMmX, (vy + truth.skew * vx) * moving * truth.perMmY];
      const limit = truth.topStepsPerS * dtS;
      return steps.map((exact, k) => {
        const seen = Math.max(-limit, Math.min(limit, exact)) * (1 - truth.slipShare) + rest[k]!;
        const jitter = moving > 0 ? 0.3 * random.normal() : 0;
        const counts = Math.round(seen + jitter) + 0;
        rest[k] = seen - counts;
        return counts;
      });
    },
    instruments: (condition, sinceS) => {
      const [vx, vy, lasts] = DRAGS[condition] ?? [0, 0, 0];
      return [
        {
          title: 'Steel ruler',
          value: Number((Math.min(sinceS, lasts) * Math.hypot(vx, vy)).toFixed(1)),
          unit: 'mm',
          uncertainty: 0.5,
        },
      ];
    },
  });
}
