import { seededRandom } from '../numerics/index.ts';
import { makeWorld } from './makeWorld.ts';
import type { World } from './world.ts';

export interface PuntSprintTruth {
  readonly kind: 'punt-sprint';
  readonly seed: number;
  readonly latitudeDeg: number;
  readonly longitudeDeg: number;
  readonly courseDeg: number;
  readonly topSpeed: number;
  readonly buildUpS: number;
  readonly speedNoise: number;
  readonly positionNoiseM: number;
  readonly satellites: number;
}

export function drawPuntSprint(seed: number): PuntSprintTruth {
  const random = seededRandom(seed);
  return {
    kind: 'punt-sprint',
    seed,
    latitudeDeg: 47 + 0.01 * random.uniform(),
    longitudeDeg: 11 + 0.01 * random.uniform(),
    courseDeg: 72,
    topSpeed: 3.9 + 0.15 * random.normal(),
    buildUpS: 4.2 + 0.4 * random.normal(),
    speedNoise: 0.04,
    positionNoiseM: 0.6,
    satellites: 9,
  };
}

/** Speed s after the start, approaching the top speed exponentially. */
export const puntSpeed = (truth: Pick<PuntSprintTruth, 'topSpeed' | 'buildUpS'>, s: number) =>
  s <= 0 ? 0 : truth.topSpeed * (1 - Math.exp(-s / truth.buildUpS));

/** Fixes of a satellite receiver in the ferry punt: it lies still, then sprints after two seconds; few satellites under trees. */
export function puntSprint(truth: PuntSprintTruth): World {
  const random = seededRandom(truth.seed);
  const metre = 1 / 111_320;
  let along = 0;
  return makeWorld({
    columns: ['lat', 'lon', 'speed', 'course', 'sats'],
    conditions: [
      { id: 'still', title: 'Tied to the jetty' },
      { id: 'sprint', title: 'Sprint, starting after 2 s' },
      { id: 'trees', title: 'Sprint under trees' },
    ],
    enter: () => (along = 0),
    step(dtS, condition, sinceS) {
      const speed = condition === 'still' ? 0 : puntSpeed(truth, sinceS - 2);
      along += speed * dtS;
      const worse = condition === 'trees' ? 4 : 1;
      const bearing = (truth.courseDeg * Math.PI) / 180;
      const off = () => truth.positionNoiseM * worse * random.normal();
      const lat = truth.latitudeDeg + (along * Math.cos(bearing) + off()) * metre;
      const lon =
        truth.longitudeDeg +
        ((along * Math.sin(bearing) + off()) * metre) / Math.cos((truth.latitudeDeg * Math.PI) / 180);
      const shown = Math.max(0, speed + truth.speedNoise * worse * random.normal());
      return [
        Number(lat.toFixed(7)),
        Number(lon.toFixed(7)),
        Number(shown.toFixed(3)),
        truth.courseDeg,
        truth.satellites - (condition === 'trees' ? 5 : 0),
      ];
    },
    instruments: (condition, sinceS) => [
      {
        title: 'Comparison receiver',
        value: condition === 'still' ? 0 : Number(puntSpeed(truth, sinceS - 2).toFixed(2)),
        unit: 'mps',
        uncertainty: 0.1,
      },
      { title: 'Course length (tape measure)', value: 40, unit: 'm', uncertainty: 0.05 },
    ],
  });
}
