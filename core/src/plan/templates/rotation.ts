import { counting, made, workedOut } from './counted.ts';
import { stopped } from '../namedStates.ts';
import { channel, named, sections, stage, type GadgetTemplate } from './template.ts';

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
    'down.range': 'A heavy stone takes its time; slower than 6 rpm counts as standing.',
    'down.tolerance': 'Two seconds tell a dry bearing.',
    'down.fastest': 'One figure a run.',
    'up.range': 'As quick as the water.',
    'up.tolerance': 'A second.',
    'up.fastest': 'One figure a run.',
    'turns.range': 'A day of milling.',
    'turns.tolerance': 'Two turns: the speed follows a turn behind.',
    'turns.fastest': 'It only adds up.',
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
                'Run-down constant',
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
