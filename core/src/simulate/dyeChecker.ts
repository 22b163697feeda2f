import { seededRandom } from '../numerics/index.ts';
import { makeWorld, toCode } from './makeWorld.ts';
import type { World } from './world.ts';

export interface DyeCheckerTruth {
  readonly kind: 'dye-checker';
  readonly seed: number;
  /** Lamps: wavelength in nm, counts through the blank, absorbance of one mg/L. */
  readonly lamps: readonly {
    readonly column: string;
    readonly nm: number;
    readonly blank: number;
    readonly perMgL: number;
  }[];
  /** Where the band of the dye is highest, nm. */
  readonly peakNm: number;
  readonly dark: number;
  readonly fullScale: number;
  readonly vatMgL: number;
  readonly noiseShare: number;
}

export function drawDyeChecker(seed: number): DyeCheckerTruth {
  const random = seededRandom(seed);
  const peakNm = 540 + 8 * random.normal();
  // No band is a bell: one of its sides is wider.
  const lean = 0.15 * seededRandom(seed + 1).normal();
  const widthAt = (nm: number) => 42 * (1 + Math.max(-0.4, Math.min(0.4, lean)) * Math.sign(nm - peakNm));
  return {
    kind: 'dye-checker',
    seed,
    lamps: [470, 525, 560, 590, 625].map((nm) => ({
      column: `l${nm}`,
      nm,
      blank: 42000 * (1 + 0.1 * random.normal()),
      perMgL: 0.031 * Math.exp(-(((nm - peakNm) / widthAt(nm)) ** 2)),
    })),
    peakNm,
    dark: 140 + 10 * random.normal(),
    fullScale: 65535,
    vatMgL: 190 + 15 * random.normal(),
    noiseShare: 0.002,
  };
}

const SERIES: Readonly<Record<string, number>> = {
  'standard-2': 2,
  'standard-5': 5,
  'standard-10': 10,
  'standard-20': 20,
  'standard-40': 40,
};

/** Narrow-band lamps through a glass of dye: dark, blank, a dilution series, the vat tenfold diluted or straight, lid open. */
export function dyeChecker(truth: DyeCheckerTruth): World {
  const random = seededRandom(truth.seed);
  const strength = (condition: string) =>
    SERIES[condition] ??
    (condition === 'vat-diluted' ? truth.vatMgL / 10 : condition === 'vat' ? truth.vatMgL : 0);
  return makeWorld({
    columns: truth.lamps.map((l) => l.column),
    conditions: [
      { id: 'dark', title: 'Lamps off, lid shut' },
      { id: 'blank', title: 'Clear water' },
      ...Object.entries(SERIES).map(([id, c]) => ({ id, title: `Standard of ${c} mg/L` })),
      { id: 'vat-diluted', title: 'Vat, diluted tenfold' },
      { id: 'vat', title: 'Vat, undiluted' },
      { id: 'lid-open', title: 'Clear water, lid open in sunlight' },
    ],
    step(_dtS, condition) {
      return truth.lamps.map((lamp) => {
        const light = condition === 'dark' ? 0 : lamp.blank * 10 ** (-lamp.perMgL * strength(condition));
        const ambient = condition === 'lid-open' ? 45000 : 0;
        const noise = truth.noiseShare * light * random.normal() + 3 * random.normal();
        return toCode(truth.dark + light + ambient + noise, 0, truth.fullScale);
      });
    },
    // Nothing beside the vat tells its strength: that is what the checker is for.
    instruments: (condition) =>
      condition.startsWith('vat')
        ? []
        : [
            {
              title: 'Concentration in the cuvette',
              value: SERIES[condition] ?? 0,
              unit: 'mgL',
              uncertainty: 0.01 * (SERIES[condition] ?? 2),
            },
          ],
  });
}
