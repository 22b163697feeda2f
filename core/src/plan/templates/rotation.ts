import { counting, made, workedOut } from './counted.ts';
import { stopped } from '../namedStates.ts';
import { channel, named, sections, stage, type GadgetTemplate } from './template.ts';

/** Turns a minute from marks that pass a sensor. */
export const rotation: GadgetTemplate = {
  id: 'rotation',
  family: 10,
  title: 'Rotation',
  summary: 'Speed of a wheel or spindle, with run-up and run-down times',
  reasons: {
    'speed.range': 'A millstone spindle at twice its working speed.',
    'speed.tolerance': 'One turn per minute, about one per cent.',
    'speed.fastest': 'Four marks per turn, evenly spaced to keep the balance.',
    'down.range': 'A heavy stone takes a long time; below 6 rpm counts as stopped.',
    'down.tolerance': 'A difference of two seconds shows a dry bearing.',
    'down.fastest': 'One result per run.',
    'up.range': 'As fast as the water drives it.',
    'up.tolerance': 'A second.',
    'up.fastest': 'One result per run.',
    'turns.range': 'A day of milling.',
    'turns.tolerance': 'Two turns: the speed lags by one turn.',
    'turns.fastest': 'It only accumulates.',
    power: 'There is no socket near the wheel.',
    enduranceH: 'A week of day shifts at the mill.',
    surroundings: 'Water, flour and vibration.',
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
        workedOut('down', 'Run-down time', 's', 0, 300, 2),
        workedOut('up', 'Run-up time', 's', 0, 120, 1),
        workedOut('turns', 'Turns', '1', 0, 100000, 2),
      ],
      { power: 'battery', enduranceH: 40, surroundings: ['damp', 'dust', 'shaking'] },
      [
        named(
          counting(
            channel(
              'spindle',
              'speed',
              'Millstone spindle',
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
            [],
            [
              made(
                'down',
                'Run-down time',
                'run-down',
                {},
                { gives: 'run-down time', standstill: 6, behindTurns: 0.5, edges: 4 },
                { askId: 'down' },
              ),
              made(
                'up',
                'Run-up time',
                'run-down',
                {},
                { gives: 'run-up time', standstill: 6, behindTurns: 0.5, edges: 4 },
                { askId: 'up' },
              ),
              made(
                'constant',
                'Run-down time constant',
                'run-down',
                {},
                { gives: 'time constant', standstill: 6, behindTurns: 0.5, edges: 4 },
              ),
              made('turns', 'Turns', 'integral', {}, { to: '1' }, { askId: 'turns' }),
            ],
          ),
          stopped('rpm'),
        ),
      ],
      50,
    ),
};
