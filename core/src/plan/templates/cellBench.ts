import { channel, sections, stage, type GadgetTemplate } from './template.ts';

const adc = () => stage('adc', 'adc', { bits: 12, referenceV: 2.5, gives: 'volt' });
const trim = () => stage('trim', 'gain-offset', { gain: 1, offset: 0 });
const scale = (slope: number, intercept: number, to: string) =>
  stage('scale', 'linear', { slope, intercept, to });

/** Voltage, current and warmth of a cell that is charged and emptied. */
export const cellBench: GadgetTemplate = {
  id: 'cell-bench',
  family: 9,
  title: 'Cell test bench',
  summary: 'Capacity and inner resistance of cells: volts, amperes, warmth',
  reasons: {
    'volts.range': 'One cell, full or empty, of any chemistry.',
    'volts.tolerance': 'Ten millivolts: the cut-off must not be missed.',
    'volts.fastest': 'A load step settles within seconds.',
    'amps.range': 'Charging and emptying a lantern cell at half its capacity an hour.',
    'amps.tolerance': 'A hundredth of an ampere adds up to a few per cent of capacity.',
    'amps.fastest': 'Currents change only when the procedure switches.',
    'warmth.range': 'A cell that gets hotter than 50 °C is stopped.',
    'warmth.tolerance': 'One degree tells warm from hot.',
    'warmth.fastest': 'A cell warms by a degree in ten seconds at worst.',
    power: 'Charging wants a socket.',
  },
  make: () =>
    sections(
      [
        {
          id: 'volts',
          quantity: 'Cell voltage',
          unit: 'V',
          low: 0,
          high: 4.5,
          tolerance: 0.01,
          fastest: { kind: 'ramp', ratePerS: 0.002 },
          measurand: 'voltage',
          sensed: null,
        },
        {
          id: 'amps',
          quantity: 'Cell current',
          unit: 'A',
          low: -1,
          high: 1,
          tolerance: 0.01,
          fastest: { kind: 'ramp', ratePerS: 0.002 },
          measurand: 'current',
          sensed: null,
        },
        {
          id: 'warmth',
          quantity: 'Cell temperature',
          unit: 'degC',
          low: 0,
          high: 60,
          tolerance: 1,
          fastest: { kind: 'ramp', ratePerS: 0.1 },
          measurand: 'temperature',
          sensed: null,
        },
      ],
      { power: 'wall', surroundings: [] },
      [
        channel('v', 'volts', 'Voltage', [['cell_v', 'count']], adc(), scale(2, 0, 'V'), trim()),
        channel('i', 'amps', 'Current', [['cell_i', 'count']], adc(), scale(1, -1.25, 'A'), trim()),
        channel('t', 'warmth', 'Temperature', [['cell_t', 'count']], adc(), scale(100, -50, 'degC'), trim()),
      ],
      1,
    ),
};
