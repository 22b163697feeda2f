import { counting, made, watch, workedOut } from './counted.ts';
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
    'hardest.range': 'As far as the sensor goes.',
    'hardest.tolerance': 'A tenth of a g.',
    'hardest.fastest': 'It only grows.',
    'drops.range': 'None on a good day.',
    'drops.tolerance': 'Every one counts.',
    'drops.fastest': 'Some seconds lie between two.',
    'jerk.range': 'A rope that comes taut.',
    'jerk.tolerance': 'A few g a second: noise alone gives two or three.',
    'jerk.fastest': 'It only grows.',
    'heavy.range': 'Some starts a ride.',
    'heavy.tolerance': 'A tenth of a second.',
    'heavy.fastest': 'It adds up while it lasts.',
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
        workedOut('hardest', 'Hardest moment', 'gn', -6, 6, 0.1),
        workedOut('softest', 'Lightest moment', 'gn', -6, 6, 0.1),
        workedOut('jerk', 'Hardest jerk', 'gnPerS', -1200, 1200, 10),
        workedOut('drops', 'Drops', '1', 0, 20, 0.5),
        workedOut('heavy', 'Seconds above 1.2 g', 's', 0, 600, 0.1),
        workedOut('light', 'Seconds below 0.8 g', 's', 0, 600, 0.1),
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
            watch('heavy', 'Heavy', 'beyond', {
              side: 'above',
              level: 1.2,
              hysteresis: 0.05,
              shortestS: 0.02,
            }),
            watch('light', 'Light', 'beyond', {
              side: 'below',
              level: 0.8,
              hysteresis: 0.05,
              shortestS: 0.02,
            }),
          ],
          [
            made('hardest', 'Hardest moment', 'extreme', {}, { which: 'highest' }, { askId: 'hardest' }),
            made('softest', 'Lightest moment', 'extreme', {}, { which: 'lowest' }, { askId: 'softest' }),
            made('jerk', 'Hardest jerk', 'steepest', {}, {}, { askId: 'jerk' }),
            made('drops', 'Drops', 'count', { of: 'drop' }, {}, { askId: 'drops' }),
            made('heavy', 'Seconds above 1.2 g', 'time-beyond', { of: 'heavy' }, {}, { askId: 'heavy' }),
            made('light', 'Seconds below 0.8 g', 'time-beyond', { of: 'light' }, {}, { askId: 'light' }),
          ],
        );
      }),
      500,
    ),
};
