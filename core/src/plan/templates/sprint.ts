import { channel, sections, stage, type GadgetTemplate } from './template.ts';

/** Speed over ground and the time to reach a set speed. */
export const sprint: GadgetTemplate = {
  id: 'sprint',
  family: 11,
  title: 'Satellite-fix sprint',
  summary: 'Speed over ground, time to a set speed, before and after a change',
  reasons: {
    'speed.range': 'A punt or a bicycle.',
    'speed.tolerance': 'A receiver knows its speed to some tenths of a km/h.',
    'speed.fastest': 'Two tries are told apart by a fifth of a second.',
    power: 'On the water.',
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
      ],
      { power: 'battery', enduranceH: 5, surroundings: ['sun', 'damp'] },
      [
        channel(
          'punt',
          'speed',
          'Punt',
          [['speed', 'mps']],
          stage('kmh', 'change-unit', { from: 'mps', to: 'kmh' }),
          stage('trim', 'gain-offset', { gain: 1, offset: 0 }),
        ),
      ],
      5,
    ),
};
