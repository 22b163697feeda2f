import { counting, made, workedOut } from './counted.ts';
import { channel, named, sections, stage, type GadgetTemplate } from './template.ts';

const SOURCES = [
  ['v', 'count'],
  ['i', 'count'],
] as const;

/** Counts of voltage and current about the middle of a 12-bit converter, as marked. */
const block = () =>
  stage('power', 'ac-power', {
    voltsPerUnit: 1 / 42,
    voltageBias: 2048,
    amperesPerUnit: 1 / 310,
    currentBias: 2048,
    currentDelayUs: 0,
    cycles: 10,
    deadBandV: 2,
  });
const pick = (column: number) => stage('column', 'pick-column', { column });

/** Voltage, current and real power of an extra-low-voltage generator. */
export const acPower: GadgetTemplate = {
  id: 'ac-power',
  family: 4,
  title: 'AC power',
  summary: 'Voltage, current and power over whole cycles, at extra-low voltage',
  reasons: {
    'volts.range': 'A 24 V generator that overspeeds without a load.',
    'volts.tolerance': 'Two per cent, so that power is accurate to three per cent.',
    'volts.fastest': 'The shape of the third harmonic of 50 Hz must be preserved.',
    'volts.sensed': 'The ADC sees the peaks: √2 times the RMS value, in both directions.',
    'amps.range': 'A hundred watts at 24 V.',
    'amps.tolerance': 'Noise without load must not read as consumption.',
    'amps.fastest': 'The shape of the third harmonic of 50 Hz must be preserved.',
    'amps.sensed': 'The ADC sees the peaks, in both directions.',
    'watts.range': 'The maximum output of the generator.',
    'watts.tolerance': 'Three per cent of the maximum.',
    'watts.fastest':
      'Calculated over ten whole cycles, a quarter of a second: read a lamp after it is switched, not while it is switched.',
    'factor.range': 'The current of a motor lags; the current of a lamp does not.',
    'factor.tolerance': 'Two hundredths, once the phase lag is corrected.',
    'factor.fastest': 'Calculated over whole cycles.',
    'energy.range': 'One day at half power.',
    'energy.tolerance': 'Three per cent of one hour at thirty watts.',
    'energy.fastest': 'It only accumulates.',
    power: 'The generator’s own voltage fails together with the load; a wall supply does not.',
    surroundings: 'It is mounted next to the generator.',
  },
  make: () =>
    sections(
      [
        {
          id: 'volts',
          quantity: 'Voltage',
          unit: 'V',
          low: 0,
          high: 30,
          tolerance: 0.5,
          fastest: { kind: 'tone', frequencyHz: 150 },
          measurand: 'voltage',
          sensed: { unit: 'V', low: -42, high: 42, tolerance: 0.7 },
        },
        {
          id: 'amps',
          quantity: 'Current',
          unit: 'A',
          low: 0,
          high: 3.5,
          tolerance: 0.08,
          fastest: { kind: 'tone', frequencyHz: 150 },
          measurand: 'current',
          sensed: { unit: 'A', low: -5, high: 5, tolerance: 0.1 },
        },
        {
          id: 'watts',
          quantity: 'Real power',
          unit: 'W',
          low: 0,
          high: 100,
          tolerance: 3,
          fastest: { kind: 'ramp', ratePerS: 4 },
          measurand: 'worked out',
          sensed: null,
        },
        workedOut('apparent', 'Apparent power', 'VA', 0, 100, 3),
        workedOut('factor', 'Power factor', '1', 0, 1, 0.02),
        workedOut('frequency', 'Frequency', 'Hz', 20, 60, 0.1),
        workedOut('energy', 'Energy', 'Wh', 0, 1200, 1),
      ],
      { power: 'wall', surroundings: ['shaking', 'dust'] },
      [
        // Of the wheel, which drives it: below its dead band there is no voltage to speak of.
        named(channel('v', 'volts', 'Voltage', SOURCES, block(), pick(1)), {
          name: 'stopped',
          unit: 'V',
          from: null,
          to: 2,
        }),
        channel('i', 'amps', 'Current', SOURCES, block(), pick(2)),
        counting(
          channel('p', 'watts', 'Real power', SOURCES, block(), pick(3)),
          [],
          [made('energy', 'Energy', 'integral', {}, { to: 'Wh' }, { askId: 'energy' })],
        ),
        channel('va', 'apparent', 'Apparent power', SOURCES, block(), pick(4)),
        channel('pf', 'factor', 'Power factor', SOURCES, block(), pick(5)),
        channel('hz', 'frequency', 'Frequency', SOURCES, block(), pick(6)),
      ],
      2000,
    ),
};
