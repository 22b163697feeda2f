import { counting, made, watch, workedOut } from './counted.ts';
import { channel, sections, stage, type GadgetTemplate } from './template.ts';

/** Peak force of a blow of some milliseconds. */
export const impactPeak: GadgetTemplate = {
  id: 'impact-peak',
  family: 6,
  title: 'Impact peak',
  summary: 'Peak force of blows, true to masses that rest',
  reasons: {
    'blow.range': 'A hammer of a few kilograms stopped within millimetres.',
    'blow.tolerance': 'Three per cent tells a good blow from a glancing one.',
    'blow.fastest': 'Iron on iron is over in about a hundredth of a second.',
    'highest.range': 'The same hammer.',
    'highest.tolerance': 'Three per cent, as of each blow.',
    'highest.fastest': 'It only rises.',
    'impulse.range': 'Some kilograms stopped from a few metres a second.',
    'impulse.tolerance': 'Three per cent of a good blow.',
    'impulse.fastest': 'One figure a blow.',
    power: 'Beside the hammer there is no socket.',
    enduranceH: 'A working day.',
    surroundings: 'It shakes, and scale flies.',
  },
  make: () =>
    sections(
      [
        {
          id: 'blow',
          quantity: 'Blow',
          unit: 'N',
          low: 0,
          high: 1600,
          tolerance: 50,
          fastest: { kind: 'pulse', widthS: 0.012 },
          measurand: 'force',
          sensed: null,
        },
        workedOut('highest', 'Highest blow', 'N', 0, 1600, 50),
        workedOut('impulse', 'Impulse of a blow', 'Ns', 0, 20, 0.4),
      ],
      { power: 'battery', enduranceH: 8, surroundings: ['shaking', 'dust'] },
      [
        counting(
          channel(
            'blow',
            'blow',
            'Anvil',
            [['load', 'count']],
            stage('bridge', 'bridge', {
              zero: 0,
              fullScaleCode: 8388607,
              range: 0.5,
              gain: 128,
              ratedMvPerV: 2,
              capacityKg: 200,
            }),
            stage('force', 'weight-force', { gravity: 9.8067 }),
            stage('trim', 'gain-offset', { gain: 1, offset: 0 }),
          ),
          [watch('blow', 'Blow', 'pulse', { level: 150, hysteresis: 75, shortestS: 0.002 })],
          [
            made('last', 'Last blow', 'event-size', { of: 'blow' }, { which: 'last' }),
            made(
              'highest',
              'Highest blow',
              'event-size',
              { of: 'blow' },
              { which: 'highest' },
              { askId: 'highest' },
            ),
            made('impulse', 'Impulse of the last blow', 'impulse', { of: 'blow' }, {}, { askId: 'impulse' }),
            made('count', 'Blows since the reset', 'count', { of: 'blow' }),
          ],
          'last',
        ),
      ],
      2000,
    ),
};
