import { counting, made, watch, workedOut } from './counted.ts';
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
    'way.range': 'There and back, several times.',
    'way.tolerance': 'A centimetre.',
    'way.fastest': 'As the length.',
    'piece.range': 'A sack is cut at 1.2 m.',
    'piece.tolerance': 'Five millimetres.',
    'piece.fastest': 'One figure a piece.',
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
        workedOut('net', 'Net length since the reset', 'm', -50, 50, 0.005),
        workedOut('way', 'Whole way there and back', 'm', 0, 200, 0.01),
        workedOut('piece', 'Last piece', 'm', -5, 5, 0.005),
      ],
      { power: 'wall', surroundings: ['shaking'] },
      [
        counting(
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
          [watch('rest', 'At rest', 'steady', { windowS: 1, drift: 0.002, scatter: 0.001 })],
          [
            made('net', 'Net length since the reset', 'path', {}, { gives: 'net' }, { askId: 'net' }),
            made('way', 'Whole way there and back', 'path', {}, { gives: 'path' }, { askId: 'way' }),
            made('piece', 'Last piece', 'segment', { of: 'rest' }, {}, { askId: 'piece' }),
          ],
        ),
      ],
      100,
    ),
};
