import { counting, made, workedOut } from './counted.ts';
import { channel, sections, stage, type GadgetTemplate } from './template.ts';

const LAMPS = [470, 525, 560, 590, 625] as const;
/** The lamp that the dye swallows most of tells its strength best. */
const NEAREST = 525;
const light = () =>
  stage('absorbance', 'absorbance', { dark: 140, blank: 42000, fullScale: 65535, gives: 'absorbance' });

/** Absorbance of a coloured liquid at a few narrow bands. */
export const absorbance: GadgetTemplate = {
  id: 'absorbance',
  family: 7,
  title: 'Absorbance',
  summary: 'How much light a liquid absorbs at a few wavelengths, and the dye concentration',
  reasons: {
    'dye.range': 'Above 2, only one hundredth of the light is left: dilute the sample instead.',
    'dye.tolerance': 'Two hundredths is about five per cent of a strong dye.',
    'dye.fastest': 'The cuvette does not move; one reading takes a second.',
    'strength.range': 'The standards end at 40; a vat is about 200, so it is diluted tenfold first.',
    'strength.tolerance': 'One fortieth of the strongest; the eye can only tell a tenth.',
    'strength.fastest': 'The cuvette does not move; one reading takes a second.',
    'peak.range': 'From the shortest to the longest wavelength of the light sources.',
    'peak.tolerance': 'Half the distance between two wavelengths.',
    'peak.fastest': 'The cuvette does not move.',
    power: 'The dye house has sockets.',
    surroundings: 'Steam, and a lid that must keep daylight out.',
  },
  make: () =>
    sections(
      [
        {
          id: 'dye',
          quantity: 'Absorbance',
          unit: 'absorbance',
          low: 0,
          high: 2,
          tolerance: 0.02,
          fastest: { kind: 'ramp', ratePerS: 0.004 },
          measurand: 'light through a sample',
          sensed: null,
        },
        {
          id: 'strength',
          quantity: 'Concentration',
          unit: 'mgL',
          low: 0,
          high: 40,
          tolerance: 1,
          fastest: { kind: 'ramp', ratePerS: 0.08 },
          measurand: 'worked out',
          sensed: null,
        },
        workedOut('peak', 'Peak wavelength', 'nm', 470, 625, 20),
      ],
      { power: 'wall', surroundings: ['damp'] },
      [
        ...LAMPS.map((nm, i) => {
          const lamp = channel(`l${nm}`, 'dye', `${nm} nm`, [[`l${nm}`, 'count']], light());
          if (i > 0) return lamp;
          const others = LAMPS.slice(1).map((other) => `l${other}`);
          const wavelengths = [...LAMPS];
          return counting(
            lamp,
            [],
            [
              made(
                'peak',
                'Peak wavelength',
                'peak-wavelength',
                {},
                { wavelengths },
                { others, askId: 'peak' },
              ),
            ],
          );
        }),
        channel('strength', 'strength', 'Dye concentration', [[`l${NEAREST}`, 'count']], light(), {
          ...stage('series', 'concentration', { slope: 0.025, intercept: 0, dilution: 1, to: 'mgL' }),
          uncertainty: { slope: 0.008, intercept: 0.01 },
        }),
      ],
      2,
    ),
};
