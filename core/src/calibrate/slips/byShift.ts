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
        'The sign is turned round',
        dimension === 'acceleration' || dimension === 'magnetic flux density'
          ? 'Point the axis up, then down: the sign must follow.'
          : 'Swap the two signal wires, or load it the other way: the sign must follow.',
        0,
        (o) => -o.shown,
      ),
    );
  const shift = observations[0]!.shown - observations[0]!.expected;
  found.push(
    plain(
      'tare',
      `${ZERO[dimension] ?? 'A zero is missing'}: everything is ${printSignificant(shift, 3)} ${symbol} off`,
      ZERO_TEST[dimension] ?? 'Take everything away and read: it must show zero.',
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
            `It shows ${UNITS[from].name}, not ${UNITS[unit].name}`,
            'Hold the probe in your hand: 32 to 36 means Celsius, 90 to 97 Fahrenheit, about 307 kelvin.',
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
        'Gravity is in it',
        'Lay it at rest: without gravity it shows zero.',
        0.2,
        (o) => o.shown - g,
      ),
      plain(
        'gravity-out',
        'Gravity is taken out of it',
        'Lay it at rest: with gravity it shows 1 g.',
        0.4,
        (o) => o.shown + g,
      ),
    );
  }
  if (dimension === 'absorbance')
    found.push(
      plain(
        'transmission',
        'It shows the share that passes, not the absorbance',
        'Put clear water in: absorbance is 0, the share 1.',
        0.1,
        (o) => (o.shown > 0 ? -Math.log10(o.shown) : Number.NaN),
      ),
    );
  if (dimension === 'ratio' && unit !== 'sPerD')
    found.push(
      plain(
        'log',
        'The logarithm is shown: the power of ten at the end is missing',
        'Look for 10 to the power, or exp, at the end of the formula.',
        0.3,
        (o) => 10 ** o.shown,
      ),
      plain(
        'log-natural',
        'The natural logarithm is shown: exp at the end is missing',
        'Look for 10 to the power, or exp, at the end of the formula.',
        0.5,
        (o) => Math.exp(o.shown),
      ),
    );
  if (dimension === 'frequency' || dimension === 'time')
    found.push(
      plain(
        'period',
        dimension === 'time'
          ? 'It shows how often, not how long'
          : 'It shows how long one takes, not how often',
        'Make it twice as fast: what is shown must double, not halve.',
        0.3,
        (o) => (unit === 'rpm' || unit === 'perMin' ? 60 : 1) / o.shown,
      ),
    );
  return found;
}

const ZERO: Partial<Record<keyof typeof ZERO_TEST | string, string>> = {
  mass: 'The tare is missing',
  force: 'The tare is missing',
  current: 'The zero of the current sensor is off',
  voltage: 'The zero is off',
  acceleration: 'The offset of an axis is not taken out',
  length: 'It was not set to zero first',
  temperature: 'An offset is missing or counted twice',
  angle: 'It is mounted turned, or declination is missing',
  absorbance: 'The blank is missing',
};
const ZERO_TEST: Readonly<Record<string, string>> = {
  mass: 'Take everything off and read: it must show zero.',
  force: 'Take everything off and read: it must show zero.',
  current: 'Open the circuit: it must show zero amperes.',
  voltage: 'Short the input: it must show zero volts.',
  acceleration: 'Turn the axis up and down: both must be 1 g apart from zero.',
  length: 'Lay it at the beginning and set it to zero.',
  temperature: 'Put it in ice slurry: it must show zero degrees.',
  angle: 'Point it along a known course, then along the opposite one: both are off by the same.',
  absorbance: 'Put clear water in: it must show zero.',
  ratio: 'Bring it where there is nothing of it, such as clean air: it must show what is there.',
};

/** How many times, as a logarithm: a zero is seldom off by many times of what is measured. */
const apart = ({ shown, expected }: SlipObservation) =>
  shown !== 0 && expected !== 0 ? Math.abs(Math.log(Math.abs(shown / expected))) : 0;

const wrap = (angle: number) => ((angle % 360) + 360) % 360;
const DIRECTIONS: readonly Slip[] = [
  plain(
    'mirrored',
    'The circle runs the wrong way: an axis is turned round',
    'Turn it from north to east: it must go up.',
    0.1,
    (o) => wrap(360 - o.shown),
  ),
  plain(
    'quarter',
    'A quarter of a turn off: x and y are swapped, or it is mounted across',
    'Point it north: 90 or 270 means a quarter.',
    0.1,
    (o) => wrap(o.shown - 90),
  ),
  plain(
    'quarter-inverse',
    'A quarter of a turn off the other way',
    'Point it north: 90 or 270 means a quarter.',
    0.1,
    (o) => wrap(o.shown + 90),
  ),
  plain('half', 'It points backwards: half a turn off', 'Point it north: 180 means half a turn.', 0.1, (o) =>
    wrap(o.shown + 180),
  ),
  plain(
    'swapped',
    'x and y are swapped',
    'Turn it from north to east: it must go from 0 up to 90, not from 90 down.',
    0.2,
    (o) => wrap(90 - o.shown),
  ),
];
