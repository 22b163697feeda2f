import { seededRandom } from '../numerics/index.ts';
import { speedOfSound } from '../stages/timeOfFlight.ts';
import { makeWorld } from './makeWorld.ts';
import type { World } from './world.ts';

export interface FinishGateTruth {
  readonly kind: 'finish-gate';
  readonly seed: number;
  readonly airC: number;
  /** Far bank, m; a duck passes nearer. */
  readonly bankM: number;
  readonly targetM: number;
  readonly noiseUs: number;
  readonly courseM: number;
  readonly duckSpeed: number;
}

export function drawFinishGate(seed: number): FinishGateTruth {
  const random = seededRandom(seed);
  return {
    kind: 'finish-gate',
    seed,
    airC: 14 + 6 * random.normal(),
    bankM: 1.8 + 0.1 * random.normal(),
    targetM: 1 + 0.0005 * random.normal(),
    noiseUs: 12,
    courseM: 24.6 + 0.05 * random.normal(),
    duckSpeed: 0.62 + 0.05 * random.normal(),
  };
}

/**
 * An ultrasonic ranger over the mill race: a taped target, an empty race, a duck that passes, a leaf that trips it early. A
 * bell on the board rings at the start, some time in the second second, and holds its column high for half a second.
 */
export function finishGate(truth: FinishGateTruth): World {
  const random = seededRandom(truth.seed);
  const perUs = speedOfSound(truth.airC) / 2e6;
  const took = truth.courseM / truth.duckSpeed;
  let bellS = 1;
  const isRace = (condition: string) => condition === 'race' || condition === 'leaf';
  const distance = (condition: string, racedS: number) => {
    if (condition === 'target') return truth.targetM;
    if (condition === 'leaf' && racedS > 2 && racedS < 2.15) return 0.5;
    // A duck is 0.2 m long: so much time it spends in the beam.
    const duck = isRace(condition) && racedS > took && racedS < took + 0.2 / truth.duckSpeed;
    return duck ? 0.75 : truth.bankM;
  };
  return makeWorld({
    columns: ['echo', 'start'],
    conditions: [
      { id: 'empty', title: 'Empty mill race' },
      { id: 'target', title: 'Board at the measured distance' },
      { id: 'race', title: 'Duck on the course' },
      { id: 'leaf', title: 'Duck on the course, leaf in the air' },
    ],
    enter: () => (bellS = 1 + random.uniform()),
    step: (_dtS, condition, sinceS) => [
      Math.max(0, Math.round(distance(condition, sinceS - bellS) / perUs + truth.noiseUs * random.normal())),
      isRace(condition) && sinceS >= bellS && sinceS < bellS + 0.5 ? 1 : 0,
    ],
    instruments: (condition, sinceS) => [
      { title: 'Distance to the board (tape measure)', value: 1, unit: 'm', uncertainty: 0.002 },
      {
        title: 'Thermometer in the shade',
        value: Math.round(truth.airC * 2) / 2,
        unit: 'degC',
        uncertainty: 0.5,
      },
      {
        title: 'Judge’s stopwatch',
        value: isRace(condition) && sinceS - bellS > took ? Math.round(took * 10) / 10 : 0,
        unit: 's',
        uncertainty: 0.4,
      },
    ],
  });
}
