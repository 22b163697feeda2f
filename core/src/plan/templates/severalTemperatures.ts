import type { LineSpec } from '../../model/line.ts';
import { lineForSensor } from '../sensorLine.ts';
import { BOARDS, SENSORS } from '../shelf/index.ts';
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

/** Several probes alike, each trued up on its own. */
export const severalTemperatures: GadgetTemplate = {
  id: 'several-temperatures',
  family: 14,
  title: 'Several temperatures',
  summary: 'Up to four thermistor probes, each trued up on its own',
  reasons: {
    'temperature.range': 'From ice to a little above boiling, so that both can be references.',
    'temperature.tolerance': 'One degree: a true-up against ice and steam reaches it.',
    'temperature.fastest': 'A kiln or an oven climbs by a few tenths of a degree a second.',
    power: 'It watches for days.',
    surroundings: 'Warm and steamy.',
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
      ],
      { power: 'wall', surroundings: ['heat', 'damp'] },
      [1, 2, 3, 4].map((i) => ({
        id: `p${i}`,
        askId: 'temperature',
        name: `Probe ${i}`,
        line: thermistorLine(`p${i}`),
      })),
      10,
    ),
};
