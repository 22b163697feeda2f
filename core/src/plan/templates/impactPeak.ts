import { counting, made, watch, workedOut } from './counted.ts';
import { channel, sections, stage, type GadgetTemplate } from './template.ts';

/** Peak force of a blow of some milliseconds. */
export const impactPeak: GadgetTemplate = {
  id: 'impact-peak',
  family: 6,
  title: 'Impact peak',
  summary: 'Peak force of impacts, calibrated with static masses',
  reasons: {
    'blow.range': 'A hammer of a few kilograms stopped within millimetres.',
    'blow.tolerance': 'Three per cent tells a good hit from a glancing one.',
    'blow.fastest': 'Iron on iron lasts about a hundredth of a second.',
    'highest.range': 'The same hammer.',
    'highest.tolerance': 'Three per cent, as for each impact.',
    'highest.fastest': 'It can only rise.',
    'impulse.range': 'A few kilograms stopped from a few metres per second.',
    'impulse.tolerance': 'Three per cent of a good hit.',
    'impulse.fastest': 'One result per impact.',
    power: 'There is no socket next to the hammer.',
    enduranceH: 'A working day.',
    surroundings: 'Vibration, and flying scale.',
  },
  make: () =>
    sections(
      [
        {
          id: 'blow',
          quantity: 'Impact force',
          unit: 'N',
          low: 0,
          high: 1600,
          tolerance: 50,
          fastest: { kind: 'pulse', widthS: 0.012 },
          measurand: 'force',
          sensed: null,
        },
        workedOut('highest', 'Highest impact', 'N', 0, 1600, 50),
        workedOut('impulse', 'Impulse of an impact', 'Ns', 0, 20, 0.4),
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
          [watch('blow', 'Impact', 'pulse', { level: 150, hysteresis: 75, shortestS: 0.002 })],
          [
            made('last', 'Last impact', 'event-size', { of: 'blow' }, { which: 'last' }),
            made(
              'highest',
              'Highest impact',
              'event-size',
              { of: 'blow' },
              { which: 'highest' },
              { askId: 'highest' },
            ),
            made(
              'impulse',
              'Impulse of the last impact',
              'impulse',
              { of: 'blow' },
              {},
              { askId: 'impulse' },
            ),
            made('count', 'Impacts since reset', 'count', { of: 'blow' }),
          ],
          'last',
        ),
      ],
      2000,
    ),
};
