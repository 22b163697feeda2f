import { counting, made, watch, workedOut } from './counted.ts';
import { channel, sections, stage, type GadgetTemplate } from './template.ts';

/** Speed over ground and the time to reach a set speed. */
export const sprint: GadgetTemplate = {
  id: 'sprint',
  family: 11,
  title: 'Sprint timer (satellite)',
  summary: 'Speed over ground and time to a set speed, to compare before and after a change',
  reasons: {
    'speed.range': 'A punt or a bicycle.',
    'speed.tolerance': 'A receiver measures speed to a few tenths of a km/h.',
    'speed.fastest': 'A fifth of a second separates two trials.',
    'quick.range': 'A good ferryman takes ten seconds.',
    'quick.tolerance': 'Half a second tells two poles apart over a few trials.',
    'quick.fastest': 'One result per trial.',
    'across.range': 'From bank to bank.',
    'across.tolerance': 'Half a second.',
    'across.fastest': 'One result per trial.',
    power: 'It is on the water.',
    enduranceH: 'An afternoon.',
    surroundings: 'Sun and splashes.',
  },
  make: () =>
    sections(
      [
        {
          id: 'speed',
          quantity: 'Speed',
          unit: 'kmh',
          low: 0,
          high: 20,
          tolerance: 0.3,
          fastest: { kind: 'crossing', timingS: 0.1 },
          measurand: 'speed over ground',
          sensed: null,
        },
        workedOut('quick', 'Time to 12 km/h', 's', 0, 60, 0.5),
        workedOut('across', 'Time to 40 m', 's', 0, 120, 0.5),
      ],
      { power: 'battery', enduranceH: 5, surroundings: ['sun', 'damp'] },
      [
        counting(
          channel(
            'punt',
            'speed',
            'Punt',
            [['speed', 'mps']],
            stage('kmh', 'change-unit', { from: 'mps', to: 'kmh' }),
            stage('trim', 'gain-offset', { gain: 1, offset: 0 }),
          ),
          [watch('run', 'Sprint', 'motion', { startLevel: 1.2, stopLevel: 0.8, holdS: 2, drawnBack: true })],
          [
            made(
              'quick',
              'Time to 12 km/h',
              'time-to-level',
              { from: 'run' },
              { level: 12, fitS: 3 },
              { askId: 'quick' },
            ),
            made(
              'across',
              'Time to 40 m',
              'time-to-distance',
              { from: 'run' },
              { distanceM: 40 },
              { askId: 'across' },
            ),
            made('fastest', 'Top speed', 'extreme', {}, { which: 'highest' }),
          ],
        ),
      ],
      5,
    ),
};
