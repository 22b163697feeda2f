import { counting, made, watch, workedOut } from './counted.ts';
import { channel, sections, stage, type GadgetTemplate } from './template.ts';
import { axesToG, THREE_AXES } from './threeAxes.ts';

/** Accelerations of a ride, axis by axis, with its extremes. */
export const rideRecorder: GadgetTemplate = {
  id: 'ride-recorder',
  family: 8,
  title: 'Acceleration recorder',
  summary: 'Three-axis acceleration of a ride, with extremes, jerk and drops',
  reasons: {
    'ride.range': 'A hoist jerks within 6 g; the end of a fall exceeds it.',
    'ride.tolerance': 'A twentieth of a g, to detect starts and stops.',
    'ride.fastest': 'Stopping against the beam takes about thirty milliseconds.',
    'hardest.range': 'The full range of the sensor.',
    'hardest.tolerance': 'A tenth of a g.',
    'hardest.fastest': 'It can only increase.',
    'drops.range': 'None on a good day.',
    'drops.tolerance': 'Every drop matters.',
    'drops.fastest': 'There are a few seconds between two drops.',
    'jerk.range': 'A rope that snaps taut.',
    'jerk.tolerance': 'A few g per second: noise alone gives two or three.',
    'jerk.fastest': 'It can only increase.',
    'heavy.range': 'Several starts per ride.',
    'heavy.tolerance': 'A tenth of a second.',
    'heavy.fastest': 'It accumulates while the condition lasts.',
    power: 'It travels with the load.',
    enduranceH: 'A day of lifts.',
    surroundings: 'Vibration and flour dust.',
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
        workedOut('hardest', 'Maximum acceleration', 'gn', -6, 6, 0.1),
        workedOut('softest', 'Minimum acceleration', 'gn', -6, 6, 0.1),
        workedOut('jerk', 'Maximum jerk', 'gnPerS', -1200, 1200, 10),
        workedOut('drops', 'Drops', '1', 0, 20, 0.5),
        workedOut('heavy', 'Time above 1.2 g', 's', 0, 600, 0.1),
        workedOut('light', 'Time below 0.8 g', 's', 0, 600, 0.1),
      ],
      { power: 'battery', enduranceH: 24, surroundings: ['shaking', 'dust'] },
      ['x', 'y', 'z'].map((axis, i) => {
        const along = channel(
          axis,
          'ride',
          `Along ${axis}`,
          THREE_AXES,
          axesToG(2048),
          stage('axis', 'pick-column', { column: i + 1 }),
        );
        // It hangs with z up: what a ride feels like lies there.
        if (axis !== 'z') return along;
        return counting(
          along,
          [
            watch('drop', 'Drop', 'free-fall', { level: 0.4, shortestS: 0.1 }),
            watch('heavy', 'Above 1.2 g', 'beyond', {
              side: 'above',
              level: 1.2,
              hysteresis: 0.05,
              shortestS: 0.02,
            }),
            watch('light', 'Below 0.8 g', 'beyond', {
              side: 'below',
              level: 0.8,
              hysteresis: 0.05,
              shortestS: 0.02,
            }),
          ],
          [
            made(
              'hardest',
              'Maximum acceleration',
              'extreme',
              {},
              { which: 'highest' },
              { askId: 'hardest' },
            ),
            made('softest', 'Minimum acceleration', 'extreme', {}, { which: 'lowest' }, { askId: 'softest' }),
            made('jerk', 'Maximum jerk', 'steepest', {}, {}, { askId: 'jerk' }),
            made('drops', 'Drops', 'count', { of: 'drop' }, {}, { askId: 'drops' }),
            made('heavy', 'Time above 1.2 g', 'time-beyond', { of: 'heavy' }, {}, { askId: 'heavy' }),
            made('light', 'Time below 0.8 g', 'time-beyond', { of: 'light' }, {}, { askId: 'light' }),
          ],
        );
      }),
      500,
    ),
};
