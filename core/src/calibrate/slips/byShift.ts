import { convertUnit, printSignificant, UNITS, type UnitId } from '../../units/index.ts';
import type { Slip, SlipObservation } from './slip.ts';

const plain = (
  id: string,
  title: string,
  test: string,
  cost: number,
  correct: (o: SlipObservation) => number,
): Slip => ({ ids: [id], title, test, cost, edit: null, correct });

/** Slips that turn a reading round, move its zero, or bend it. */
export function shiftSlips(unit: UnitId, observations: readonly SlipObservation[]): Slip[] {
  const { dimension, symbol } = UNITS[unit];
  const found: Slip[] = [];
  if (dimension !== 'angle' && dimension !== 'count')
    found.push(
      plain(
        'sign',
        'Sign is reversed',
        dimension === 'acceleration' || dimension === 'magnetic flux density'
          ? 'Point the axis up, then down: the sign should change.'
          : 'Swap the two signal wires or reverse the load: the sign should change.',
        0,
        (o) => -o.shown,
      ),
    );
  const shift = observations[0]!.shown - observations[0]!.expected;
  found.push(
    plain(
      'tare',
      `${ZERO[dimension] ?? 'Zero not set'}: every reading is off by ${printSignificant(shift, 3)} ${symbol}`,
      ZERO_TEST[dimension] ?? 'Remove everything: the reading should be zero.',
      // One observation always fits a shift; it is only worth something with a second one.
      observations.length > 1 ? 0.2 : 2 + 0.5 * Math.max(0, apart(observations[0]!) - Math.log(3)),
      (o) => o.shown - shift,
    ),
  );
  if (dimension === 'temperature')
    for (const from of ['degC', 'degF', 'K'] as const)
      if (from !== unit)
        found.push(
          plain(
            `shown-in-${from}`,
            `Reading in ${UNITS[from].name} instead of ${UNITS[unit].name}`,
            'Hold the probe in your hand: 32 to 36 means Celsius, 90 to 97 means Fahrenheit, about 307 means kelvin.',
            0,
            (o) => convertUnit(o.shown, from, unit),
          ),
        );
  if (unit === 'deg') found.push(...DIRECTIONS);
  if (unit === 'gn' || unit === 'mps2') {
    const g = unit === 'gn' ? 1 : 9.80665;
    found.push(
      plain(
        'gravity-in',
        'Gravity is included',
        'Leave it at rest: without gravity the reading is zero.',
        0.2,
        (o) => o.shown - g,
      ),
      plain(
        'gravity-out',
        'Gravity is excluded',
        'Leave it at rest: with gravity the reading is 1 g.',
        0.4,
        (o) => o.shown + g,
      ),
    );
  }
  if (dimension === 'absorbance')
    found.push(
      plain(
        'transmission',
        'Transmittance instead of absorbance',
        'Insert clear water: absorbance is 0, transmittance is 1.',
        0.1,
        (o) => (o.shown > 0 ? -Math.log10(o.shown) : Number.NaN),
      ),
    );
  if (dimension === 'ratio' && unit !== 'sPerD')
    found.push(
      plain(
        'log',
        'Logarithm instead of value: 10^x is missing at the end',
        'Check the end of the formula for a missing 10^x or exp(x).',
        0.3,
        (o) => 10 ** o.shown,
      ),
      plain(
        'log-natural',
        'Natural logarithm instead of value: exp(x) is missing at the end',
        'Check the end of the formula for a missing 10^x or exp(x).',
        0.5,
        (o) => Math.exp(o.shown),
      ),
    );
  if (dimension === 'frequency' || dimension === 'time')
    found.push(
      plain(
        'period',
        dimension === 'time' ? 'Frequency instead of period' : 'Period instead of frequency',
        'Double the speed: a frequency should double, a period should halve.',
        0.3,
        (o) => (unit === 'rpm' || unit === 'perMin' ? 60 : 1) / o.shown,
      ),
    );
  return found;
}

const ZERO: Partial<Record<keyof typeof ZERO_TEST | string, string>> = {
  mass: 'Tare not applied',
  force: 'Tare not applied',
  current: 'Current sensor zero is off',
  voltage: 'Zero is off',
  acceleration: 'Axis offset not corrected',
  length: 'Not set to zero at the start',
  temperature: 'An offset is missing or applied twice',
  angle: 'Mounting angle or declination not corrected',
  absorbance: 'Blank not applied',
};
const ZERO_TEST: Readonly<Record<string, string>> = {
  mass: 'Remove the load: the reading should be zero.',
  force: 'Remove the load: the reading should be zero.',
  current: 'Open the circuit: the reading should be 0 A.',
  voltage: 'Short the input: the reading should be 0 V.',
  acceleration: 'Point the axis up, then down: the readings should be +1 g and −1 g.',
  length: 'Move it to the start position and set it to zero.',
  temperature: 'Put it in ice slurry: the reading should be 0 °C, which is 32 °F or 273.15 K.',
  angle:
    'Point it along a known bearing, then in the opposite direction: both readings are off by the same amount.',
  absorbance: 'Insert clear water: the reading should be zero.',
  ratio: 'Expose it to a place with a known low level, such as clean air, and compare.',
};

/** How many times, as a logarithm: a zero is seldom off by many times of what is measured. */
const apart = ({ shown, expected }: SlipObservation) =>
  shown !== 0 && expected !== 0 ? Math.abs(Math.log(Math.abs(shown / expected))) : 0;

const wrap = (angle: number) => ((angle % 360) + 360) % 360;
const DIRECTIONS: readonly Slip[] = [
  plain(
    'mirrored',
    'Direction is mirrored: one axis is reversed',
    'Turn it from north to east: the reading should increase.',
    0.1,
    (o) => wrap(360 - o.shown),
  ),
  plain(
    'quarter',
    'A quarter turn off: x and y swapped, or mounted sideways',
    'Point it north: a reading of 90 or 270 means a quarter turn.',
    0.1,
    (o) => wrap(o.shown - 90),
  ),
  plain(
    'quarter-inverse',
    'A quarter turn off in the other direction',
    'Point it north: a reading of 90 or 270 means a quarter turn.',
    0.1,
    (o) => wrap(o.shown + 90),
  ),
  plain(
    'half',
    'Reversed: half a turn off',
    'Point it north: a reading of 180 means half a turn.',
    0.1,
    (o) => wrap(o.shown + 180),
  ),
  plain(
    'swapped',
    'x and y are swapped',
    'Turn it from north to east: the reading should go from 0 up to 90, not from 90 down to 0.',
    0.2,
    (o) => wrap(90 - o.shown),
  ),
];
