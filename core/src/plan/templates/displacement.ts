import { counting, made, watch, workedOut } from './counted.ts';
import { channel, sections, stage, type GadgetTemplate } from './template.ts';

/** Length that passes a sensor which watches the surface. */
export const displacement: GadgetTemplate = {
  id: 'displacement',
  family: 13,
  title: 'Optical displacement',
  summary: 'Length of cloth or board passing the sensor, from steps in x and y',
  reasons: {
    'length.range': 'A roll of sackcloth.',
    'length.tolerance': 'Five millimetres: small enough not to change the number of sacks.',
    'length.fastest': 'Pulled by hand at half a metre per second.',
    'way.range': 'Back and forth, several times.',
    'way.tolerance': 'A centimetre.',
    'way.fastest': 'Same as for the length.',
    'piece.range': 'Sacks are cut at 1.2 m.',
    'piece.tolerance': 'Five millimetres.',
    'piece.fastest': 'One result per piece.',
    power: 'There is a socket next to the table.',
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
        workedOut('net', 'Net length since reset', 'm', -50, 50, 0.005),
        workedOut('way', 'Total distance travelled', 'm', 0, 200, 0.01),
        workedOut('piece', 'Length of last piece', 'm', -5, 5, 0.005),
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
            made('net', 'Net length since reset', 'path', {}, { gives: 'net' }, { askId: 'net' }),
            made('way', 'Total distance travelled', 'path', {}, { gives: 'path' }, { askId: 'way' }),
            made('piece', 'Length of last piece', 'segment', { of: 'rest' }, {}, { askId: 'piece' }),
          ],
        ),
      ],
      100,
    ),
};
