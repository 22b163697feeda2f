import type { ThermistorBankTruth, ThermistorProbeTruth } from '../model/link.ts';
import { seededRandom } from '../numerics/index.ts';
import { boilingPointC } from '../references/index.ts';
import { fullScale } from '../stages/adc.ts';
import { steinhartHart } from '../stages/steinhartHart.ts';
import { makeWorld } from './makeWorld.ts';
import type { World } from './world.ts';

const CONDITIONS = [
  { id: 'kiln', title: 'In the kiln' },
  { id: 'room', title: 'Room air' },
  { id: 'ice', title: 'Ice slurry' },
  { id: 'warm', title: 'Warm bath' },
  { id: 'hot', title: 'Hot bath' },
  { id: 'boiling', title: 'Boiling water' },
] as const;

const WARM_S = 2400;

/**
 * Thermistor probes in dividers, in a kiln or in a bath: first-order lag to the surroundings, the true curve and the
 * true series resistor of each probe, noise, rounding to codes.
 */
export function thermistorBank(truth: ThermistorBankTruth): World {
  const random = seededRandom(truth.seed);
  const full = fullScale(truth.adcBits);
  let condition: string = 'kiln';
  let sinceS = WARM_S;
  let left = false;
  let previous = truth.probes.map((probe) => surroundings(probe));
  const temperatures = [...previous];

  function meanSurroundings(): number {
    switch (condition) {
      case 'ice':
        return truth.iceC;
      case 'warm':
        // A thermos of water cools by about a hundredth of a degree a minute.
        return 50.3 - 1.5e-4 * sinceS;
      case 'hot':
        return 76.1 - 3e-4 * sinceS;
      case 'boiling':
        return boilingPointC(truth.pressureHpa);
      case 'kiln':
        return truth.roomC + (66 - truth.roomC) * (1 - Math.exp(-sinceS / 900)) + 2.4 * Math.sin(sinceS / 70);
      default:
        return truth.roomC + 0.05 * Math.sin(sinceS / 200);
    }
  }

  function surroundings(probe: ThermistorProbeTruth): number {
    return meanSurroundings() + (condition === 'kiln' ? probe.kilnOffsetC : 0);
  }

  return makeWorld({
    columns: truth.probes.map((probe) => probe.column),
    conditions: CONDITIONS,
    step(dtS, present, presentS) {
      condition = present;
      // The kiln has been firing for a while when the first reading comes.
      sinceS = presentS + (present === 'kiln' && !left ? WARM_S : 0);
      left ||= present !== 'kiln';
      const now = truth.probes.map((probe) => surroundings(probe));
      const counts = truth.probes.map((probe, i) => {
        const towards = (previous[i]! + now[i]!) / 2;
        // Exact step of the first-order lag, so results do not depend on how finely time is cut.
        temperatures[i]! += (towards - temperatures[i]!) * (1 - Math.exp(-dtS / probe.timeConstantS));
        const ohm = steinhartHart.scalar!({ a: probe.a, b: probe.b, c: probe.c }).inverse!(temperatures[i]!);
        const series = probe.seriesOhm;
        const ratio = truth.seriesSide === 'top' ? ohm / (ohm + series) : series / (ohm + series);
        const code = Math.round(ratio * full + probe.noiseCounts * random.normal());
        return Math.min(full, Math.max(0, code));
      });
      previous = now;
      return counts;
    },
    instruments: () => [
      {
        title:
          condition === 'kiln'
            ? 'Glass thermometer on the kiln door'
            : 'Reference thermometer next to the probes',
        value: Math.round((meanSurroundings() + truth.referenceErrorC) * 10) / 10,
        unit: 'degC',
        uncertainty: 0.2,
      },
      {
        title: 'Wall barometer',
        value: Math.round(truth.pressureHpa * 2) / 2,
        unit: 'hPa',
        uncertainty: 1,
      },
    ],
  });
}
