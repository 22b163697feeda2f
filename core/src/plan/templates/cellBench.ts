import { EMPTY_V } from '../../procedure/index.ts';
import { counting, made, workedOut } from './counted.ts';
import { channel, named, sections, stage, type GadgetTemplate } from './template.ts';

const adc = () => stage('adc', 'adc', { bits: 12, referenceV: 2.5, gives: 'volt' });
const trim = () => stage('trim', 'gain-offset', { gain: 1, offset: 0 });
const scale = (slope: number, intercept: number, to: string) =>
  stage('scale', 'linear', { slope, intercept, to });

/** Voltage, current and warmth of a cell that is charged and emptied. */
export const cellBench: GadgetTemplate = {
  id: 'cell-bench',
  family: 9,
  title: 'Cell test bench',
  summary: 'Capacity and internal resistance of cells: voltage, current, temperature',
  reasons: {
    'volts.range': 'One cell, full or empty, of any chemistry.',
    'volts.tolerance': 'Ten millivolts, so that the cutoff is not missed.',
    'volts.fastest': 'A load step settles within seconds.',
    'amps.range': 'Charging and discharging a lantern cell at half its capacity per hour.',
    'amps.tolerance': 'A hundredth of an ampere accumulates to a few per cent of the capacity.',
    'amps.fastest': 'The current changes only when the procedure switches.',
    'warmth.range':
      'Stop testing a cell that gets hotter than its datasheet allows; 50 °C is the choice of this example.',
    'warmth.tolerance': 'One degree is enough to tell warm from hot.',
    'warmth.fastest': 'At worst, a cell warms by one degree in ten seconds.',
    'charge.range': 'A cell of this size, plus a little margin.',
    'charge.tolerance': 'Two per cent of a good cell.',
    'charge.fastest': 'It accumulates over hours.',
    'given.range': 'The same in watt-hours.',
    'given.tolerance': 'Two per cent.',
    'given.fastest': 'It accumulates over hours.',
    'inner.range': 'A cell is worn out above a quarter of an ohm.',
    'inner.tolerance': 'A tenth of a good cell.',
    'inner.fastest': 'One result per load step.',
    power: 'Charging needs a wall socket.',
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
        workedOut('charge', 'Capacity to 3 V', 'mAh', 0, 3000, 40),
        workedOut('given', 'Energy to 3 V', 'Wh', 0, 12, 0.15),
        workedOut('inner', 'Internal resistance', 'mohm', 0, 500, 10),
      ],
      { power: 'wall', surroundings: [] },
      [
        named(
          counting(
            // The divider stands on a quarter of a volt, so that no volts are no end of the converter.
            channel('v', 'volts', 'Voltage', [['cell_v', 'count']], adc(), scale(2, -0.5, 'V'), trim()),
            [],
            [
              made(
                'inner',
                'Internal resistance',
                'load-step',
                {},
                { leastA: 0.2, settleS: 5 },
                { others: ['i'], askId: 'inner' },
              ),
            ],
          ),
          { name: 'reversed', unit: 'V', from: null, to: -EMPTY_V, cutOff: true },
          { name: 'empty slot', unit: 'V', from: -EMPTY_V, to: EMPTY_V },
        ),
        counting(
          channel('i', 'amps', 'Current', [['cell_i', 'count']], adc(), scale(1, -1.25, 'A'), trim()),
          [],
          [
            made(
              'charge',
              'Capacity to 3 V',
              'capacity',
              {},
              { gives: 'mAh' },
              { others: ['v'], askId: 'charge' },
            ),
            made(
              'given',
              'Energy to 3 V',
              'capacity',
              {},
              { gives: 'Wh' },
              { others: ['v'], askId: 'given' },
            ),
          ],
        ),
        channel('t', 'warmth', 'Temperature', [['cell_t', 'count']], adc(), scale(100, -50, 'degC'), trim()),
      ],
      1,
    ),
};
