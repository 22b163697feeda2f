import { channel, sections, stage, type GadgetTemplate } from './template.ts';
import { axesToG, THREE_AXES } from './threeAxes.ts';

/** Accelerations of a ride, axis by axis, with its extremes. */
export const rideRecorder: GadgetTemplate = {
  id: 'ride-recorder',
  family: 8,
  title: 'Acceleration recorder',
  summary: 'Three axes of a ride, extremes, jerk and drops',
  reasons: {
    'ride.range': 'A hoist jerks within 6 g; a fall ends beyond.',
    'ride.tolerance': 'A twentieth of a g, to see starts and stops.',
    'ride.fastest': 'A stop against the beam lasts some thirty milliseconds.',
    power: 'It rides along.',
    enduranceH: 'A day of lifts.',
    surroundings: 'It shakes, and flour flies.',
  },
  make: () =>
    sections(
      [
        {
          id: 'ride',
          quantity: 'Acceleration',
          unit: 'gn',
          low: -6,
          high: 6,
          tolerance: 0.05,
          fastest: { kind: 'pulse', widthS: 0.03 },
          measurand: 'acceleration',
          sensed: null,
        },
      ],
      { power: 'battery', enduranceH: 24, surroundings: ['shaking', 'dust'] },
      ['x', 'y', 'z'].map((axis, i) =>
        channel(
          axis,
          'ride',
          `Along ${axis}`,
          THREE_AXES,
          axesToG(2048),
          stage('axis', 'pick-column', { column: i + 1 }),
        ),
      ),
      200,
    ),
};
