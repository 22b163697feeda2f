import type { LineSpec } from '../../model/line.ts';
import { lineForSensor } from '../sensorLine.ts';
import { BOARDS, SENSORS } from '../shelf/index.ts';
import { counting, made, workedOut } from './counted.ts';
import { sections, stage, type GadgetTemplate } from './template.ts';

/** A thermistor channel: converter, divider, curve, correction, smoothing. */
export function thermistorLine(column: string): LineSpec {
  const probe = SENSORS.find((s) => s.id === 'ntc-bead-10k')!;
  const board = BOARDS.find((b) => b.id === 'small-8-bit')!;
  const line = lineForSensor(probe, board, null, column);
  return {
    ...line,
    stages: [
      ...line.stages,
      stage('correction', 'gain-offset', { gain: 1, offset: 0 }),
      stage('smoothing', 'exponential', { timeConstantS: 1 }),
    ],
  };
}

/** What the first of four probes is asked beside its temperature. */
export const probeFigures = () => [
  made('spread', 'Spread between probes', 'spread', {}, {}, { others: ['p2', 'p3', 'p4'], askId: 'spread' }),
  made('rise', 'Rate of rise', 'rate-of-rise', {}, { windowS: 300, to: 'KPerMin' }, { askId: 'rise' }),
  made(
    'ready',
    'Time to 80 °C',
    'time-to-target',
    {},
    { target: 80, windowS: 300, to: 'min' },
    { askId: 'ready' },
  ),
];

/** Several probes alike, each trued up on its own. */
export const severalTemperatures: GadgetTemplate = {
  id: 'several-temperatures',
  family: 14,
  title: 'Several temperatures',
  summary: 'Up to four thermistor probes, each calibrated separately',
  reasons: {
    'temperature.range': 'From ice to a little above boiling, so that both can be used as references.',
    'temperature.tolerance': 'One degree: calibration against ice and steam achieves it.',
    'temperature.fastest': 'A kiln or an oven rises by a few tenths of a degree per second.',
    'spread.range': 'Across the kiln, corner to corner.',
    'spread.tolerance': 'Two probes, each with a tolerance of one degree.',
    'spread.fastest': 'As slow as the kiln.',
    'rise.range': 'A kiln rises by one degree per minute, an oven by ten.',
    'rise.tolerance': 'A tenth of a degree per minute.',
    'rise.fastest': 'Averaged over five minutes.',
    'ready.range': 'A firing takes hours.',
    'ready.tolerance': 'A few minutes.',
    'ready.fastest': 'It only counts down.',
    power: 'It monitors for days.',
    surroundings: 'Warm and steamy surroundings.',
  },
  make: () =>
    sections(
      [
        {
          id: 'temperature',
          quantity: 'Temperature',
          unit: 'degC',
          low: 0,
          high: 110,
          tolerance: 1,
          fastest: { kind: 'ramp', ratePerS: 0.3 },
          measurand: 'temperature',
          sensed: null,
        },
        workedOut('spread', 'Spread between probes', 'K', 0, 30, 1.4),
        workedOut('rise', 'Rate of rise', 'KPerMin', -20, 20, 0.1),
        workedOut('ready', 'Time to 80 °C', 'min', 0, 600, 5),
      ],
      { power: 'wall', surroundings: ['heat', 'damp'] },
      [1, 2, 3, 4].map((i) => {
        const probe = {
          id: `p${i}`,
          askId: 'temperature',
          name: `Probe ${i}`,
          line: thermistorLine(`p${i}`),
        };
        return i === 1 ? counting(probe, [], probeFigures()) : probe;
      }),
      10,
    ),
};
