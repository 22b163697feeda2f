import { channel, sections, stage, type GadgetTemplate } from './template.ts';

/** Turns a minute from marks that pass a sensor. */
export const rotation: GadgetTemplate = {
  id: 'rotation',
  family: 10,
  title: 'Rotation',
  summary: 'Speed of a wheel or a spindle, spin-up and run-down',
  reasons: {
    'speed.range': 'A stone spindle at twice its working speed.',
    'speed.tolerance': 'One turn a minute, about one per cent.',
    'speed.fastest': 'Four marks a turn: evenly spread, they keep the balance.',
    power: 'By the wheel there is no socket.',
    enduranceH: 'A milling week of day shifts.',
    surroundings: 'Water, flour and shaking.',
  },
  make: () =>
    sections(
      [
        {
          id: 'speed',
          quantity: 'Spindle speed',
          unit: 'rpm',
          low: 0,
          high: 240,
          tolerance: 1,
          fastest: { kind: 'edges', marks: 4 },
          measurand: 'rotation',
          sensed: null,
        },
      ],
      { power: 'battery', enduranceH: 40, surroundings: ['damp', 'dust', 'shaking'] },
      [
        channel(
          'spindle',
          'speed',
          'Stone spindle',
          [
            ['edges', 'count'],
            ['edge_us', 'us'],
          ],
          stage('rate', 'period-rate', {
            marks: 4,
            over: 'one turn',
            deadTimeS: 0.005,
            from: 'us',
            to: 'rpm',
          }),
          stage('clock', 'gain-offset', { gain: 1, offset: 0 }),
        ),
      ],
      50,
    ),
};
