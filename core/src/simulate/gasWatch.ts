import { seededRandom } from '../numerics/index.ts';
import { fullScale } from '../stages/adc.ts';
import { makeWorld, toCode } from './makeWorld.ts';
import type { World } from './world.ts';

export const GASES = ['ferment', 'ammonia', 'solvent'] as const;

const DOSE_OF = { ferment: 'Fermentation vapour', ammonia: 'Ammonia', solvent: 'Solvent vapour' } as const;

export interface GasWatchTruth {
  readonly kind: 'gas-watch';
  readonly seed: number;
  readonly adcBits: number;
  readonly referenceV: number;
  readonly supplyV: number;
  /** For each element: load, resistance in clean air, background and steepness of its curve, answer to each gas. */
  readonly elements: readonly {
    readonly column: string;
    readonly loadOhm: number;
    readonly cleanOhm: number;
    readonly backgroundPpm: number;
    /** Rs / R0 = (ppm / background)^-steepness. */
    readonly steepness: number;
    readonly answers: readonly [number, number, number];
    readonly warmUpS: number;
  }[];
  readonly doses: readonly [number, number, number];
  readonly noiseCounts: number;
}

export function drawGasWatch(seed: number): GasWatchTruth {
  const random = seededRandom(seed);
  const near = (v: number, share: number) => v * (1 + share * random.normal());
  return {
    kind: 'gas-watch',
    seed,
    adcBits: 12,
    referenceV: 3.3,
    supplyV: 3.3,
    elements: ['gas1', 'gas2', 'gas3'].map((column, i) => ({
      column,
      loadOhm: near(4700, 0.01),
      cleanOhm: near([26000, 41000, 33000][i]!, 0.15),
      backgroundPpm: [8, 2, 5][i]!,
      steepness: near([0.52, 0.61, 0.44][i]!, 0.03),
      // A tenth of one gas answers on the neighbours' elements.
      answers: [0, 1, 2].map((k) => (k === i ? 1 : 0.1)) as [number, number, number],
      warmUpS: 90,
    })),
    doses: [near(120, 0.01), near(25, 0.01), near(60, 0.01)],
    noiseCounts: 1.2,
  };
}

/** Three heated elements in a grain cellar: cold at first, then each follows its log-log curve, with cross-answers. */
export function gasWatch(truth: GasWatchTruth): World {
  const random = seededRandom(truth.seed);
  const full = fullScale(truth.adcBits);
  let onS = 0;
  const level = [0, 0, 0];
  const doseOf = (condition: string) => GASES.map((gas, k) => (gas === condition ? truth.doses[k]! : 0));
  return makeWorld({
    columns: truth.elements.map((e) => e.column),
    conditions: [
      { id: 'clean', title: 'Clean air' },
      { id: 'ferment', title: 'Fermentation vapour, known dose' },
      { id: 'ammonia', title: 'Ammonia, known dose' },
      { id: 'solvent', title: 'Solvent vapour, known dose' },
    ],
    step(dtS, condition) {
      onS += dtS;
      doseOf(condition).forEach((dose, k) => (level[k]! += (dose - level[k]!) * (1 - Math.exp(-dtS / 6))));
      return truth.elements.map((e) => {
        const felt = e.answers.reduce((s, a, k) => s + a * level[k]!, 0);
        const ratio = (Math.max(felt, e.backgroundPpm) / e.backgroundPpm) ** -e.steepness;
        const ohm = e.cleanOhm * ratio * (1 + 2.5 * Math.exp(-onS / e.warmUpS));
        const volt = (truth.supplyV * e.loadOhm) / (e.loadOhm + ohm);
        return toCode((volt / truth.referenceV) * full + truth.noiseCounts * random.normal(), 0, full);
      });
    },
    instruments: (condition) =>
      GASES.map((gas, k) => ({
        title: `${DOSE_OF[gas]} dose in the test box`,
        value: Number(doseOf(condition)[k]!.toPrecision(3)),
        unit: 'ppm',
        uncertainty: 0.02 * truth.doses[k]!,
        column: truth.elements[k]!.column,
      })),
  });
}
