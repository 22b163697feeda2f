import { seededRandom } from '../numerics/index.ts';
import { fullScale } from '../stages/adc.ts';
import { makeWorld, toCode } from './makeWorld.ts';
import type { World } from './world.ts';

export interface GeneratorTruth {
  readonly kind: 'generator';
  readonly seed: number;
  readonly adcBits: number;
  /** Counts a volt and a ampere, and counts at rest. */
  readonly countsPerVolt: number;
  readonly countsPerAmpere: number;
  readonly voltageBias: number;
  readonly currentBias: number;
  /** The current sensor lags by this, s. */
  readonly currentDelayS: number;
  readonly frequencyHz: number;
  readonly volts: number;
  readonly lampOhm: number;
  readonly motorA: number;
  readonly motorPhaseDeg: number;
  readonly noiseCounts: number;
}

export function drawGenerator(seed: number): GeneratorTruth {
  const random = seededRandom(seed);
  const near = (v: number, share: number) => v * (1 + share * random.normal());
  return {
    kind: 'generator',
    seed,
    adcBits: 12,
    countsPerVolt: near(42, 0.03),
    countsPerAmpere: near(310, 0.03),
    voltageBias: near(2048, 0.004),
    currentBias: near(2048, 0.004),
    currentDelayS: near(3.2e-4, 0.2),
    frequencyHz: 43 + 2 * random.normal(),
    volts: near(24, 0.02),
    lampOhm: near(12, 0.01),
    motorA: near(1.6, 0.03),
    motorPhaseDeg: 34 + 2 * random.normal(),
    noiseCounts: 1.5,
  };
}

/** The mill generator at extra-low voltage: a little third harmonic, its speed wandering with the wheel, three loads. */
export function generator(truth: GeneratorTruth): World {
  const random = seededRandom(truth.seed);
  const full = fullScale(truth.adcBits);
  let phase = 0;
  let timeS = 0;
  const rms = (condition: string) =>
    condition === 'lamp' ? truth.volts / truth.lampOhm : condition === 'motor' ? truth.motorA : 0;
  return makeWorld({
    columns: ['v', 'i'],
    conditions: [
      { id: 'no-load', title: 'Running, load off' },
      { id: 'lamp', title: 'Lamp bank (resistive load)' },
      { id: 'motor', title: 'Elevator motor' },
      { id: 'stopped', title: 'Wheel stopped' },
    ],
    step(dtS, condition) {
      timeS += dtS;
      const frequency = truth.frequencyHz + 0.4 * Math.sin(timeS / 5);
      phase += 2 * Math.PI * frequency * dtS;
      const running = condition === 'stopped' ? 0 : 1;
      const wave = (p: number) => Math.SQRT2 * (Math.sin(p) + 0.06 * Math.sin(3 * p + 0.3));
      // The harmonic adds 0.18 % to the RMS value; it is taken off so that the instruments read what is meant.
      const scale = running / Math.sqrt(1 + 0.06 ** 2);
      const lag = 2 * Math.PI * frequency * truth.currentDelayS;
      const shift = condition === 'motor' ? (truth.motorPhaseDeg * Math.PI) / 180 : 0;
      const v = truth.volts * scale * wave(phase);
      const i =
        rms(condition) *
        (condition === 'motor'
          ? running * Math.SQRT2 * Math.sin(phase - lag - shift)
          : scale * wave(phase - lag));
      return [
        toCode(truth.voltageBias + truth.countsPerVolt * v + truth.noiseCounts * random.normal(), 0, full),
        toCode(truth.currentBias + truth.countsPerAmpere * i + truth.noiseCounts * random.normal(), 0, full),
      ];
    },
    instruments: (condition) => [
      {
        title: 'Reference meter, voltage',
        value: condition === 'stopped' ? 0 : Number(truth.volts.toFixed(2)),
        unit: 'V',
        uncertainty: 0.15,
      },
      {
        title: 'Reference meter, current',
        value: Number(rms(condition).toFixed(3)),
        unit: 'A',
        uncertainty: 0.02,
      },
    ],
  });
}
