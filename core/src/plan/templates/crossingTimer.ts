import { counting, made, watch, workedOut } from './counted.ts';
import { channel, sections, stage, type GadgetTemplate } from './template.ts';

/** A distance that falls when something crosses; the time between start signal and crossing. */
export const crossingTimer: GadgetTemplate = {
  id: 'crossing-timer',
  family: 2,
  title: 'Crossing timer',
  summary: 'Time from start to finish, detected by a shorter echo, and the speed',
  reasons: {
    'race.range': 'A slow course of a few tens of metres.',
    'race.tolerance': 'A tenth of a second separates two that arrive together.',
    'race.fastest': 'Start and finish together may add a twentieth of a second.',
    'race.sensed':
      'Across the course and back, to a few centimetres: enough to tell a target from the far bank.',
    'pace.range': 'Anything that drifts with the mill race.',
    'pace.tolerance': 'Three per cent: the course is measured with a tape to a few centimetres.',
    'pace.fastest': 'One result per race.',
    power: 'Outdoors, away from sockets.',
    enduranceH: 'One race day.',
    surroundings: 'Sun on the display, spray on the sensor.',
  },
  make: () =>
    sections(
      [
        {
          id: 'race',
          quantity: 'Race time',
          unit: 's',
          low: 0,
          high: 120,
          tolerance: 0.1,
          fastest: { kind: 'crossing', timingS: 0.025 },
          measurand: 'distance',
          sensed: { unit: 'm', low: 0.4, high: 2.5, tolerance: 0.05 },
        },
        workedOut('pace', 'Average speed', 'mps', 0, 3, 0.02),
      ],
      { power: 'battery', enduranceH: 8, surroundings: ['sun', 'damp'] },
      [
        counting(
          channel(
            'gate',
            'race',
            'Finish gate',
            [['echo', 'us']],
            stage('echo', 'time-of-flight', {
              airC: 20,
              path: 'there and back',
              offsetM: 0,
              from: 'us',
            }),
            stage('median', 'moving-median', { width: 3 }),
          ),
          [
            watch('start', 'Start signal', 'signal', { level: 0.5 }, { column: 'start', deadTimeS: 5 }),
            // Half way between the far bank and a target; five readings of six, so that a leaf is none.
            watch(
              'finish',
              'Finish',
              'level',
              { level: 1.3, hysteresis: 0.2, direction: 'falling', n: 5, m: 6 },
              { after: 'start', leastS: 8, deadTimeS: 5 },
            ),
          ],
          [
            made('time', 'Race time', 'time-between', { from: 'start', to: 'finish' }),
            made(
              'pace',
              'Average speed',
              'course-speed',
              { from: 'start', to: 'finish' },
              { lengthM: 24.6, uncertaintyM: 0.1, to: 'mps' },
              { askId: 'pace' },
            ),
          ],
          'time',
        ),
      ],
      25,
    ),
};
