import { seededRandom } from '../numerics/index.ts';
import { fullScale } from '../stages/adc.ts';
import { makeWorld, toCode } from './makeWorld.ts';
import type { World } from './world.ts';

export interface PendulumTruth {
  readonly kind: 'pendulum';
  readonly seed: number;
  readonly adcBits: number;
  /** Time of a full swing, s; the beam is crossed twice in it. */
  readonly periodS: number;
  readonly baseline: number;
  readonly depth: number;
  readonly noiseCounts: number;
}

export function drawPendulum(seed: number): PendulumTruth {
  const random = seededRandom(seed);
  return {
    kind: 'pendulum',
    seed,
    adcBits: 12,
    periodS: 2 * (1 + 4e-4 * random.normal()),
    baseline: 1200 + 100 * random.normal(),
    depth: 900 + 80 * random.normal(),
    noiseCounts: 14,
  };
}

/** Light thrown back by the tower clock's pendulum as it swings through the beam, with daylight that wanders. */
export function pendulum(truth: PendulumTruth): World {
  const random = seededRandom(truth.seed);
  const full = fullScale(truth.adcBits);
  let timeS = 0;
  return makeWorld({
    columns: ['light'],
    conditions: [
      { id: 'running', title: 'Clock running' },
      { id: 'waving', title: 'Someone moving in front of the beam' },
      { id: 'bright', title: 'Sunlight on the detector' },
      { id: 'stopped', title: 'Clock stopped' },
    ],
    step(dtS, condition) {
      timeS += dtS;
      const swing = condition === 'stopped' ? 1 : Math.sin((2 * Math.PI * timeS) / truth.periodS);
      const flash = truth.depth * Math.exp(-((swing / 0.16) ** 2));
      const daylight = 150 * Math.sin(timeS / 47) + (condition === 'bright' ? 3200 : 0);
      const waving =
        condition === 'waving' ? 500 * Math.max(0, Math.sin(2.9 * timeS) * Math.sin(0.37 * timeS)) : 0;
      return [
        toCode(truth.baseline + flash + daylight + waving + truth.noiseCounts * random.normal(), 0, full),
      ];
    },
    instruments: (condition) => [
      {
        title: 'Reference clock, beats per minute',
        value: condition === 'stopped' ? 0 : Number((120 / truth.periodS).toFixed(4)),
        unit: 'perMin',
        uncertainty: 0.001,
      },
    ],
  });
}
