import type { StageSpec } from '../../../src/model/line.ts';
import { mean } from '../../../src/numerics/index.ts';
import type { BudgetTable } from '../../../src/reading/index.ts';
import { SWING } from '../../../src/simulate/windVane.ts';
import { FAMILIES } from '../../../src/simulate/index.ts';
import {
  told,
  undoing,
  of,
  along,
  whereIt,
  emptied,
  lampEnergy,
  hoistAbove,
  blowsOf,
  probeStages,
  FIRING,
  meanSlope,
} from './figureTruths.ts';

/** What happens in a world, and what figures should say of it. */
export interface FigureTrial {
  readonly family: number;
  /** Stages as they would be if the truth were known. */
  stages?(truth: never, stage: StageSpec, channelId: string): StageSpec;
  readonly budget?: (truth: never, channelId: string) => BudgetTable;
  readonly steps: readonly (readonly [condition: string, seconds: number])[];
  /** Parameters of figures other than those of the template, by their names. */
  readonly params?: Readonly<Record<string, Readonly<Record<string, number>>>>;
  /** Whether the conditions begin anywhere between two readings. */
  readonly anyPhase?: boolean;
  /** What the figures should say, by their names in the template. */
  readonly truth: Readonly<Record<string, (truth: never) => number>>;
}

export const FIGURE_TRIALS: Readonly<Record<string, FigureTrial>> = {
  'a dose of ammonia: how long above its limit, and the highest': {
    family: 1,
    stages: (t, stage, channelId) => {
      const i = ['ferment', 'ammonia', 'solvent'].indexOf(channelId);
      const { loadOhm, cleanOhm, backgroundPpm, steepness } = of<'gas-watch'>(t).elements[i]!;
      if (stage.kind === 'load-resistor') return told(stage, { loadOhm });
      if (stage.kind === 'ratio-to-baseline') return told(stage, { baseline: cleanOhm });
      if (stage.kind === 'power-law') return told(stage, { factor: backgroundPpm, exponent: -1 / steepness });
      return stage;
    },
    // Noise of 1.2 codes and their steps, each worth 0.037 ppm at 20 ppm, and more above.
    budget: () => ({ readings: [20, 25], systematic: [0, 0], noise: [0.046, 0.0545] }),
    steps: [
      ['clean', 1200],
      ['ammonia', 120],
      ['clean', 120],
    ],
    truth: {
      'ammonia over': (t) => {
        const dose = of<'gas-watch'>(t).doses[1];
        const full = dose * (1 - Math.exp(-120 / 6));
        return (120 + 6 * Math.log(1 - 20 / dose) + 6 * Math.log(full / 20)) / 60;
      },
      'ammonia highest': (t) => of<'gas-watch'>(t).doses[1],
    },
  },
  'a race: a signal and a step, either anywhere between two readings': {
    family: 2,
    steps: [
      ['empty', 5],
      ['race', 60],
    ],
    truth: { time: (t) => of<'finish-gate'>(t).courseM / of<'finish-gate'>(t).duckSpeed },
  },
  'strokes of the sieve': {
    family: 3,
    steps: [['shaking', 40]],
    truth: { cadence: (t) => of<'three-axes'>(t).strokesPerMin },
  },
  'energy of a lamp bank': {
    family: 4,
    stages: (t, stage) => {
      const { countsPerVolt, countsPerAmpere, voltageBias, currentBias, currentDelayS } = of<'generator'>(t);
      return stage.kind === 'ac-power'
        ? told(stage, {
            voltsPerUnit: 1 / countsPerVolt,
            amperesPerUnit: 1 / countsPerAmpere,
            voltageBias,
            currentBias,
            currentDelayUs: 1e6 * currentDelayS,
          })
        : stage;
    },
    // What a sample's noise leaves of a mean over ten turns.
    budget: (t) => {
      const { volts, lampOhm, countsPerVolt, countsPerAmpere, noiseCounts, frequencyHz } = of<'generator'>(t);
      const counts = Math.hypot(noiseCounts, 1 / Math.sqrt(12));
      const samples = (10 / frequencyHz) * FAMILIES.find(({ family }) => family === 4)!.sampleRateHz;
      const noise = [0, volts / lampOhm].map(
        (amperes) =>
          Math.hypot(amperes * (counts / countsPerVolt), volts * (counts / countsPerAmpere)) /
          Math.sqrt(samples),
      );
      return { readings: [0, volts ** 2 / lampOhm], systematic: [0, 0], noise };
    },
    steps: [
      ['no-load', 2],
      ['lamp', 8],
      ['no-load', 2],
    ],
    truth: { energy: lampEnergy },
  },
  'seconds a day of the clock: its beats, and the crystal': {
    family: 5,
    steps: [['running', 300]],
    truth: { gain: (t) => 86_400 * (2 / of<'pendulum'>(t).periodS - 1) },
  },
  'blows: the last, the highest, their impulse and how many': {
    family: 6,
    stages: (t, stage) => {
      const { zero, countsPerKg, gravity } = of<'blow-meter'>(t);
      if (stage.kind === 'weight-force') return told(stage, { gravity });
      // Counts a kilogram come from what the cell gives at its capacity.
      const { fullScaleCode, range, gain, ratedMvPerV } = stage.params as Record<string, number>;
      const share = (ratedMvPerV! / 1000) * gain! * (1 / range!) * fullScaleCode!;
      return stage.kind === 'bridge' ? told(stage, { zero, capacityKg: share / countsPerKg }) : stage;
    },
    budget: (t) => ({
      readings: [0],
      systematic: [0],
      noise: [
        (of<'blow-meter'>(t).noiseCounts / of<'blow-meter'>(t).countsPerKg) * of<'blow-meter'>(t).gravity,
      ],
    }),
    steps: [['blows', 20]],
    truth: {
      last: (t) => blowsOf(t).at(-1)!,
      highest: (t) => Math.max(...blowsOf(t)),
      impulse: (t) => {
        const { blowS, blowShape } = of<'blow-meter'>(t);
        const shares = Array.from(
          { length: 1000 },
          (_, i) => Math.sin((Math.PI * (i + 0.5)) / 1000) ** blowShape,
        );
        return blowsOf(t).at(-1)! * blowS * mean(shares);
      },
      count: () => 5,
    },
  },
  'the peak of the dye between five lamps': {
    family: 7,
    stages: (t, stage, channelId) => {
      const { dark, lamps } = of<'dye-checker'>(t);
      const lamp = lamps.find(({ column }) => column === channelId) ?? lamps[1]!;
      return stage.kind === 'absorbance' ? told(stage, { dark, blank: lamp.blank }) : stage;
    },
    steps: [['standard-10', 5]],
    truth: {
      peak: (t) => of<'dye-checker'>(t).peakNm,
    },
  },
  'a ride on the hoist: hardest, softest, drops, how long it was heavy': {
    family: 8,
    stages: (t, stage) =>
      stage.kind === 'vector-correction'
        ? told(stage, {
            matrix: undoing(of<'three-axes'>(t).scale),
            offset: [...of<'three-axes'>(t).offset],
          })
        : stage,
    budget: () => ({ readings: [0], systematic: [0], noise: [12 / 2048] }),
    anyPhase: true,
    steps: [
      ['z-up', 1],
      ['ride', 15],
    ],
    truth: { hardest: () => 3.2, softest: () => 0.05, drops: () => 2, heavy: () => hoistAbove(1.2) },
  },
  'a cell to its cutoff, and its internal resistance': {
    family: 9,
    stages: (t, stage, channelId) => {
      const { dividerRatio, liftV, shuntOhm, shuntGain, referenceV } = of<'cell-bench'>(t);
      const perAmpere = shuntOhm * shuntGain;
      if (stage.kind !== 'linear' || channelId === 't') return stage;
      return channelId === 'v'
        ? told(stage, { slope: dividerRatio, intercept: -liftV * dividerRatio })
        : told(stage, { slope: 1 / perAmpere, intercept: -referenceV / 2 / perAmpere });
    },
    // A code, and noise of another: 1.2 mV and 0.6 mA.
    budget: (_t, channelId) => ({
      readings: [0],
      systematic: [0],
      noise: [channelId === 'v' ? 0.0013 : 0.00064],
    }),
    anyPhase: true,
    steps: [
      ['rest', 30],
      ['discharge', 14_000],
    ],
    truth: {
      charge: (t) => emptied(t).mAh,
      given: (t) => emptied(t).wh,
      inner: (t) => 1000 * of<'cell-bench'>(t).internalOhm,
    },
  },
  'run-down time to standstill, from a mean over a turn': {
    family: 10,
    steps: [
      ['stopped', 30],
      ['running', 60],
      ['run-down', 90],
    ],
    truth: { down: (t) => 14 * Math.log((0.95 * of<'spindle'>(t).rpm) / 6) },
  },
  'a sprint: a start drawn back, a crossing by a curve, speed summed over time': {
    family: 11,
    budget: (t) => ({ readings: [0], systematic: [0], noise: [3.6 * of<'punt-sprint'>(t).speedNoise] }),
    anyPhase: true,
    steps: [
      ['still', 20],
      ['sprint', 40],
    ],
    // Some hardly get to 12 km/h: then it has no one moment.
    params: { quick: { level: 10 } },
    truth: {
      quick: (t) => -of<'punt-sprint'>(t).buildUpS * Math.log(1 - 10 / 3.6 / of<'punt-sprint'>(t).topSpeed),
      across: (t) => whereIt((s) => along(of<'punt-sprint'>(t), s), 40, 60),
    },
  },
  'a vane that swings about north': {
    family: 12,
    stages: (t, stage) => {
      const { soft, hard, declinationDeg } = of<'wind-vane'>(t);
      if (stage.kind === 'vector-correction')
        return told(stage, { matrix: undoing(soft), offset: [...hard] });
      return stage.kind === 'heading' ? told(stage, { declinationDeg }) : stage;
    },
    steps: [['swinging', 70]],
    // The acceleration's own offsets stay: about 0.35 degrees of tilt, at a dip of 64 degrees.
    budget: () => ({ readings: [0], systematic: [0.75], noise: [0.5] }),
    truth: {
      mean: () => 0,
      wander: () => SWING * (180 / Math.PI),
    },
  },
  'cloth along a ruler of 300 mm': {
    family: 13,
    stages: (t, stage) =>
      stage.kind === 'counts-to-length'
        ? told(stage, { perMmX: of<'cloth-roller'>(t).perMmX, perMmY: of<'cloth-roller'>(t).perMmY })
        : stage,
    // A whole step stands for whatever lies within it.
    budget: (t) => ({
      readings: [0],
      systematic: [0],
      noise: [0.001 / of<'cloth-roller'>(t).perMmX / Math.sqrt(12)],
    }),
    steps: [
      ['still', 5],
      ['drag-x', 8],
      ['drag-x-back', 8],
      ['drag-x', 8],
    ],
    truth: { net: () => 0.3, way: () => 0.9, piece: () => 0.3 },
  },
  'probes in the kiln: how far apart they are': {
    family: 14,
    stages: probeStages,
    // A code of ten bits is a tenth of a degree there, smoothed over a second; lags that differ leave as much.
    budget: () => ({ readings: [0], systematic: [0.012], noise: [0.017] }),
    steps: [['kiln', 600]],
    truth: {
      spread: (t) => {
        const offsets = of<'thermistor-bank'>(t).probes.map(({ kilnOffsetC }) => kilnOffsetC);
        return Math.max(...offsets) - Math.min(...offsets);
      },
    },
  },
  'a bath that cools by a hundredth of a degree a minute, and when it will be so cool': {
    family: 14,
    stages: probeStages,
    // Noise of more than half a code leaves nothing of its steps.
    budget: () => ({ readings: [0], systematic: [0], noise: [0.02] }),
    steps: [
      ['kiln', 1],
      ['hot', 450],
    ],
    params: { ready: { target: 75.85 } },
    truth: {
      rise: () => -60 * 3e-4,
      // The probe follows by its own lag.
      ready: (t) => ((76.1 - 75.85) / 3e-4 + of<'thermistor-bank'>(t).probes[0]!.timeConstantS - 450) / 60,
    },
  },
  'a kiln that is lit: how fast it rises on the whole': {
    family: 14,
    stages: probeStages,
    budget: () => ({ readings: [0], systematic: [0.02], noise: [0.02] }),
    steps: FIRING,
    truth: {
      rise: (t) => 60 * meanSlope(t),
    },
  },
};
