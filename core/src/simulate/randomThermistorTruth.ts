import type { ThermistorBankTruth } from '../model/link.ts';
import { seededRandom } from '../numerics/index.ts';
import { standardPressureHpa } from '../references/index.ts';
import { threeTermsFromBeta } from './threeTermsFromBeta.ts';

export interface ThermistorBankNominal {
  readonly columns: readonly string[];
  readonly r0Ohm: number;
  readonly betaK: number;
  readonly seriesOhm: number;
  readonly seriesSide: 'top' | 'bottom';
  readonly adcBits: number;
  readonly elevationM: number;
}

/** Draws hidden constants about the nominal ones, as a bag of cheap parts would have them: for practising. */
export function randomThermistorTruth(nominal: ThermistorBankNominal, seed: number): ThermistorBankTruth {
  const random = seededRandom(seed);
  const spread = (value: number, relative: number) => value * (1 + relative * random.normal());
  return {
    kind: 'thermistor-bank',
    seed,
    adcBits: nominal.adcBits,
    seriesSide: nominal.seriesSide,
    pressureHpa: standardPressureHpa(nominal.elevationM) + 6 * random.normal(),
    roomC: 20 + 2 * random.normal(),
    iceC: 0.02 * random.normal(),
    referenceErrorC: 0.06 * random.normal(),
    probes: nominal.columns.map((column) => ({
      column,
      ...threeTermsFromBeta(spread(nominal.r0Ohm, 0.006), spread(nominal.betaK, 0.004), 8e-8),
      seriesOhm: spread(nominal.seriesOhm, 0.015),
      timeConstantS: 3 + 2 * random.uniform(),
      noiseCounts: 0.5 + 0.3 * random.uniform(),
      kilnOffsetC: 2 * random.normal(),
    })),
  };
}
