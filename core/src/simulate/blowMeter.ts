import { seededRandom } from '../numerics/index.ts';
import { makeWorld, toCode } from './makeWorld.ts';
import type { World } from './world.ts';

export interface BlowMeterTruth {
  readonly kind: 'blow-meter';
  readonly seed: number;
  readonly zero: number;
  readonly countsPerKg: number;
  readonly fullScaleCode: number;
  /** Share of the load that stays in the reading on the way down. */
  readonly hysteresis: number;
  readonly gravity: number;
  readonly blowN: number;
  readonly blowS: number;
  /** Power of a half sine that each blow has the shape of: below 1 it is blunter, above it begins and ends more gently. */
  readonly blowShape: number;
  readonly noiseCounts: number;
  /** Which blow glances off, from 1; none where not given. */
  readonly glancing?: number;
}

/** What is left of a blow that glances off. */
const GLANCING = 0.45;

export function drawBlowMeter(seed: number): BlowMeterTruth {
  const random = seededRandom(seed);
  const near = (v: number, share: number) => v * (1 + share * random.normal());
  return {
    kind: 'blow-meter',
    seed,
    zero: Math.round(40000 * random.normal()),
    countsPerKg: near(21474, 0.02),
    fullScaleCode: 8388607,
    hysteresis: 0.001,
    gravity: 9.8071,
    blowN: near(1400, 0.04),
    blowS: near(0.012, 0.05),
    // What lies between a stiff pad and a soft one.
    blowShape: 0.7 + 0.7 * seededRandom(seed + 1).uniform(),
    noiseCounts: 60,
  };
}

const MASSES: Readonly<Record<string, number>> = {
  empty: 0,
  '5kg': 5,
  '10kg': 10,
  '20kg': 20,
  '10kg-down': 10,
  '5kg-down': 5,
};

/** A load cell under the trip hammer: masses up and down, then blows of some ten milliseconds, one every four seconds. */
export function blowMeter(truth: BlowMeterTruth): World {
  const random = seededRandom(truth.seed);
  let blow = truth.blowN;
  let after = 2;
  let last = -1;
  return makeWorld({
    columns: ['load'],
    conditions: [
      { id: 'empty', title: 'No load' },
      { id: '5kg', title: '5 kg, loading' },
      { id: '10kg', title: '10 kg, loading' },
      { id: '20kg', title: '20 kg' },
      { id: '10kg-down', title: '10 kg, unloading' },
      { id: '5kg-down', title: '5 kg, unloading' },
      { id: 'blows', title: 'Hammer running' },
    ],
    step(_dtS, condition, sinceS) {
      let kg = MASSES[condition] ?? 0;
      if (condition.endsWith('down')) kg += 20 * truth.hysteresis;
      if (condition === 'blows') {
        const index = Math.floor(sinceS / 4);
        if (index !== last) {
          last = index;
          const met = index + 1 === truth.glancing ? GLANCING : 1;
          blow = met * truth.blowN * (1 + 0.06 * random.normal());
          // No two blows fall alike, so that slow sampling cannot keep step with them.
          after = 1 + 2 * random.uniform();
        }
        const t = sinceS - 4 * index - after;
        const share = t > 0 && t < truth.blowS ? Math.sin((Math.PI * t) / truth.blowS) ** truth.blowShape : 0;
        kg = (blow * share) / truth.gravity;
      }
      const counts = truth.zero + truth.countsPerKg * kg + truth.noiseCounts * random.normal();
      return [toCode(counts, -truth.fullScaleCode - 1, truth.fullScaleCode)];
    },
    instruments: (condition) => [
      { title: 'Applied mass', value: MASSES[condition] ?? 0, unit: 'kg', uncertainty: 0.002 },
    ],
  });
}
