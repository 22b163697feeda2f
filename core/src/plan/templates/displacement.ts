import { channel, sections, stage, type GadgetTemplate } from './template.ts';

/** Length that passes a sensor which watches the surface. */
export const displacement: GadgetTemplate = {
  id: 'displacement',
  family: 13,
  title: 'Optical displacement',
  summary: 'Length of cloth or board that passes, by steps in x and y',
  reasons: {
    'length.range': 'A bolt of sacking cloth.',
    'length.tolerance': 'Five millimetres: a sack more or less is not told by that.',
    'length.fastest': 'Pulled by hand at half a metre a second.',
    power: 'A socket beside the table.',
  },
  make: () =>
    sections(
      [
        {
          id: 'length',
          quantity: 'Cloth length',
          unit: 'm',
          low: 0,
          high: 50,
          tolerance: 0.005,
          fastest: { kind: 'ramp', ratePerS: 0.5 },
          measurand: 'displacement',
          sensed: null,
        },
      ],
      { power: 'wall', surroundings: ['shaking'] },
      [
        channel(
          'cloth',
          'length',
          'Cloth',
          [
            ['dx', 'count'],
            ['dy', 'count'],
          ],
          stage('length', 'counts-to-length', { perMmX: 40, perMmY: 40, mode: 'along x' }),
          stage('metres', 'change-unit', { from: 'mm', to: 'm' }),
        ),
      ],
      100,
    ),
};
