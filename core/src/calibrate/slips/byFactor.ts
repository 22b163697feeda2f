import { UNITS, type DimensionName, type UnitId } from '../../units/index.ts';
import type { FactorSlip } from './slip.ts';

/** What a factor is between, in words of the trade; the test tells one from the other. */
interface Factor {
  readonly id: string;
  /** Shown over true; its inverse is tried as well. */
  readonly factor: number;
  readonly title: string;
  /** Title of the inverse; null where the inverse is no slip. */
  readonly inverse: string | null;
  readonly test: string;
  readonly cost: number;
  /** Units whose readings it can be. */
  readonly of: readonly UnitId[];
}

const of = (...dimensions: readonly DimensionName[]): UnitId[] =>
  (Object.keys(UNITS) as UnitId[]).filter((unit) => dimensions.includes(UNITS[unit].dimension));

const ELECTRIC = of('voltage', 'current', 'power', 'apparent power', 'energy', 'charge', 'resistance');
const PREFIXED = [
  ...ELECTRIC,
  ...of('mass', 'force', 'length', 'time', 'pressure', 'capacitance', 'magnetic flux density'),
];
/** What a converter's counts become by a straight line. */
const ANALOG = [...of('voltage', 'current', 'pressure', 'power', 'ratio', 'illuminance', 'level')];
const BRIDGE = of('mass', 'force', 'impulse');
const COUNTED = [...of('count', 'frequency', 'count rate', 'speed', 'turning rate')];

const at = (
  id: string,
  factor: number,
  units: readonly UnitId[],
  title: string,
  inverse: string | null,
  test: string,
  cost = 0,
): Factor => ({ id, factor, of: units, title, inverse, test, cost });

/** Shown in one unit where another is meant, in the units' own names. */
const shownIn = (
  id: string,
  factor: number,
  shown: UnitId,
  meant: UnitId,
  test: string,
  cost = 0,
): Factor[] => [
  at(
    id,
    factor,
    [meant],
    between(shown, meant),
    `Converted from ${UNITS[shown].name} to ${UNITS[meant].name} once too often`,
    test,
    cost,
  ),
  at(
    id,
    1 / factor,
    [shown],
    between(meant, shown),
    `Converted from ${UNITS[meant].name} to ${UNITS[shown].name} once too often`,
    test,
    cost,
  ),
];
const between = (shown: UnitId, meant: UnitId) =>
  `Reading in ${UNITS[shown].name} instead of ${UNITS[meant].name}`;

const WALK = 'Walk at a known pace: 1.4 m/s is 5.0 km/h, 3.1 mph or 2.7 knots.';
const TURN =
  'Turn it by hand once per second: that is 1 Hz, 60 per minute, 6.28 rad/s or 360 degrees per second.';
const HANG = 'Hang 1 kg on it: 1 means kilograms, 9.8 newtons, 2.2 pounds.';
const RULE = 'Measure something 100 mm long: 3.94 means inches, 10 centimetres.';

/** Slips that are one number, by what they can be met in. A new one is one line. */
const FACTORS: readonly Factor[] = [
  at(
    'milli',
    1000,
    [...PREFIXED, ...of('ratio', 'mass concentration', 'frequency')],
    'Milli-units read as whole units: 1000 times too large',
    'Whole units read as milli-units: 1000 times too small',
    'Print the value with its unit after each stage and find where it jumps by a factor of 1000.',
  ),
  at(
    'micro',
    1e6,
    [...of('voltage', 'current', 'time', 'capacitance', 'length'), 'ppm', '1'],
    'Micro-units read as whole units: a million times too large',
    'Whole units read as micro-units: a million times too small',
    'Print the value with its unit after each stage and find where it jumps by a factor of a million.',
    0.6,
  ),
  at(
    'centi',
    100,
    [...of('ratio', 'absorbance', 'pressure'), 'm', 'cm', '1'],
    'Per cent or centi-units read as whole units: 100 times too large',
    'Whole units read as per cent or centi-units: 100 times too small',
    'Look for a missing or extra factor of 100 in the formula.',
    0.3,
  ),
  at(
    'ten',
    10,
    Object.keys(UNITS) as UnitId[],
    'Decimal point one place too far right',
    'Decimal point one place too far left',
    'Compare the constant in the code with the datasheet, digit by digit.',
    0.6,
  ),
  at(
    'gravity',
    9.80665,
    of('mass'),
    'Reading in newtons instead of kilograms',
    'Gravity removed twice: kilograms divided by 9.81',
    HANG,
  ),
  at(
    'gravity',
    9.80665,
    [...of('force', 'impulse')],
    'Gravity applied twice: newtons multiplied by 9.81',
    'Reading in kilograms instead of newtons',
    HANG,
  ),
  at(
    'gravity',
    9.80665,
    ['gn'],
    'Reading in m/s² instead of g',
    'Divided by 9.81 once too often (already in g)',
    'Place it flat and still: 1 means g, 9.8 means m/s².',
  ),
  at(
    'gravity',
    9.80665,
    ['mps2', 'mps3'],
    'Converted from g to m/s² twice',
    'Reading in g instead of m/s²',
    'Place it flat and still: 1 means g, 9.8 means m/s².',
  ),
  at('newton-pound', 4.4482216152605, ['lbf'], 'Reading in newtons instead of pounds-force', null, HANG, 0.2),
  at(
    'newton-pound',
    4.4482216152605,
    ['N'],
    'Converted from pounds-force to newtons once too often',
    'Reading in pounds-force instead of newtons',
    HANG,
    0.2,
  ),
  at(
    'pound',
    2.20462262,
    [...of('mass'), 'kgf'],
    'Reading in pounds instead of kilograms',
    'Converted from pounds to kilograms once too often',
    HANG,
    0.1,
  ),
  at(
    'ounce',
    28.349523125,
    ['oz', 'g'],
    'Reading in grams instead of ounces',
    'Reading in ounces instead of grams',
    HANG,
    0.4,
  ),
  at(
    'inch',
    25.4,
    ['in', 'mm'],
    'Reading in millimetres instead of inches',
    'Reading in inches instead of millimetres',
    RULE,
  ),
  at(
    'inch',
    2.54,
    ['in', 'cm'],
    'Reading in centimetres instead of inches',
    'Reading in inches instead of centimetres',
    RULE,
    0.2,
  ),
  at(
    'centimetre',
    10,
    ['cm', 'mm'],
    'Reading in millimetres instead of centimetres',
    'Reading in centimetres instead of millimetres',
    RULE,
    0.1,
  ),
  at(
    'foot',
    3.280839895,
    ['m', 'ft', 'mps'],
    'Reading in feet instead of metres',
    'Reading in metres instead of feet',
    'Measure 1 m: a reading of 3.28 means feet.',
    0.2,
  ),
  ...shownIn('speed', 3.6, 'kmh', 'mps', WALK, 0.1),
  ...shownIn('knot', 1.852, 'kmh', 'knot', WALK, 0.1),
  ...shownIn('knot-metre', 1.9438444924, 'knot', 'mps', WALK, 0.1),
  ...shownIn('mile', 1.609344, 'kmh', 'mph', WALK, 0.1),
  ...shownIn('mile-metre', 2.2369362921, 'mph', 'mps', WALK, 0.2),
  at(
    'sixty',
    60,
    [...of('frequency', 'turning rate', 'temperature rate', 'count rate'), 's', 'min', 'h'],
    '60 times too large: per minute instead of per second, or seconds instead of minutes',
    '60 times too small: per second instead of per minute, or minutes instead of seconds',
    TURN,
  ),
  at(
    'hours',
    3600,
    ['h', 's', 'mAh', 'Ah', 'Wh', 'mWh', 'C', 'J'],
    'Time in seconds instead of hours',
    'Time in hours instead of seconds',
    'Run it for one minute at a known value and check the total.',
    0.2,
  ),
  at(
    'coulomb',
    3.6,
    ['mAh', 'C'],
    'Reading in coulombs instead of milliampere-hours',
    'Reading in milliampere-hours instead of coulombs',
    'Let 1 A flow for one minute: 60 means coulombs, 16.7 means milliampere-hours.',
    0.2,
  ),
  at(
    'radians',
    2 * Math.PI,
    ['Hz'],
    'Reading in radians per second instead of turns per second',
    'Turns per second divided by 6.28 once too often',
    TURN,
    0.1,
  ),
  at(
    'radians',
    60 / (2 * Math.PI),
    ['rpm', 'perMin'],
    'Converted from radians per second to turns per minute once too often',
    'Reading in radians per second instead of turns per minute',
    TURN,
    0.1,
  ),
  at(
    'degrees-a-second',
    6,
    ['rpm', 'perMin'],
    'Reading in degrees per second instead of turns per minute',
    'Turns per minute divided by 6 once too often',
    TURN,
    0.2,
  ),
  at(
    'degrees-a-second',
    360,
    ['Hz', 'degPerS'],
    'Reading in degrees per second instead of turns per second',
    'Reading in turns per second instead of degrees per second',
    TURN,
    0.3,
  ),
  at(
    'degrees',
    180 / Math.PI,
    of('angle', 'turning rate'),
    'Degrees instead of radians',
    'Radians instead of degrees',
    'Measure a right angle: 90 means degrees, 1.57 means radians.',
  ),
  at(
    'rms',
    Math.SQRT2,
    of('voltage', 'current'),
    'Peak value instead of RMS',
    'RMS instead of peak value',
    'Apply a sine wave from a reference: peak divided by RMS is 1.414.',
  ),
  at(
    'rectified',
    Math.PI / (2 * Math.SQRT2),
    of('voltage', 'current'),
    'Rectified mean multiplied by 1.11 twice',
    'Rectified mean instead of RMS',
    'Apply a sine wave from a reference: RMS divided by rectified mean is 1.111.',
    0.5,
  ),
  at(
    'real-power',
    2,
    of('power', 'apparent power', 'energy'),
    'Peak values multiplied instead of RMS values',
    'Half of the power: only one half-wave is measured',
    'Connect a resistive load: watts should equal volts times amperes.',
    0.2,
  ),
  at(
    'three-phase',
    Math.sqrt(3),
    of('voltage'),
    'Line-to-line voltage instead of phase voltage',
    'Phase voltage instead of line-to-line voltage',
    'Measure between two lines, then between one line and neutral.',
    0.5,
  ),
  at(
    'reference',
    5 / 3.3,
    ANALOG,
    'Reference voltage assumed to be 5 V, but is 3.3 V',
    'Reference voltage assumed to be 3.3 V, but is 5 V',
    'Measure the voltage at the reference pin with a meter.',
    0.1,
  ),
  at(
    'reference-2.048',
    3.3 / 2.048,
    ANALOG,
    'Reference voltage assumed to be 3.3 V, but is 2.048 V',
    'Reference voltage assumed to be 2.048 V, but is 3.3 V',
    'Measure the voltage at the reference pin with a meter.',
    0.4,
  ),
  at(
    'bits-10-12',
    4095 / 1023,
    ANALOG,
    '12-bit ADC read as 10-bit',
    '10-bit ADC read as 12-bit',
    'Connect the input to the reference voltage: the largest count is 1023 (10-bit) or 4095 (12-bit).',
  ),
  at(
    'bits-10-8',
    1023 / 255,
    ANALOG,
    '10-bit ADC read as 8-bit',
    '8-bit ADC read as 10-bit',
    'Connect the input to the reference voltage: the largest count is 255 (8-bit) or 1023 (10-bit).',
    0.4,
  ),
  at(
    'bits-12-16',
    65535 / 4095,
    ANALOG,
    '16-bit ADC read as 12-bit',
    '12-bit ADC read as 16-bit',
    'Connect the input to the reference voltage: the largest count is 4095 (12-bit) or 65535 (16-bit).',
    0.2,
  ),
  at(
    'bits-16-24',
    256,
    BRIDGE,
    '24-bit ADC read as 16-bit',
    '16-bit ADC read as 24-bit',
    'Print the raw counts: a 24-bit ADC goes above 65535.',
    0.2,
  ),
  at(
    'unsigned',
    2,
    [...ANALOG, ...BRIDGE],
    'Unsigned ADC counts scaled with the signed full scale',
    'Signed ADC counts scaled with the unsigned full scale',
    'Print the raw counts at full load: a signed ADC reaches only half of the unsigned full scale.',
    0.3,
  ),
  at(
    'natural-log',
    Math.LN10,
    of('absorbance', 'level'),
    'Natural logarithm instead of log10',
    'log10 instead of the natural logarithm',
    'Insert a 10 % transmission filter: log10 gives 1, the natural logarithm 2.3.',
  ),
  at(
    'natural-log',
    Math.LN10,
    of('mass concentration'),
    'Natural logarithm instead of log10',
    'log10 instead of the natural logarithm',
    'Insert a 10 % transmission filter: log10 gives 1, the natural logarithm 2.3.',
    0.2,
  ),
  at(
    'dilution',
    10,
    of('mass concentration'),
    'Dilution applied twice',
    'Dilution not applied',
    'Measure the same sample undiluted, or diluted twice as much.',
  ),
  at(
    'range',
    2,
    of('acceleration', 'jerk', 'magnetic flux density'),
    'Range set one step narrower than the code assumes',
    'Range set one step wider than the code assumes',
    'Read back the range register and compare it with the constant in the code.',
  ),
  at(
    'range-2',
    4,
    of('acceleration', 'jerk', 'magnetic flux density'),
    'Range set two steps narrower than the code assumes',
    'Range set two steps wider than the code assumes',
    'Read back the range register and compare it with the constant in the code.',
    0.1,
  ),
  at(
    'range-3',
    8,
    of('acceleration', 'jerk', 'magnetic flux density'),
    'Range set three steps narrower than the code assumes',
    'Range set three steps wider than the code assumes',
    'Read back the range register and compare it with the constant in the code.',
    0.2,
  ),
  at(
    'gain',
    2,
    BRIDGE,
    'Gain or rated output one step off: reading twice too large',
    'Gain or rated output one step off: reading half as large',
    'Read back the gain setting, and check the rating on the load cell’s label.',
    0.1,
  ),
  at(
    'gain-4',
    4,
    BRIDGE,
    'Gain two steps off: reading four times too large',
    'Gain two steps off: reading a quarter of the true value',
    'Read back the amplifier’s gain setting, or trace its gain pin.',
    0.2,
  ),
  at(
    'gain-1.5',
    1.5,
    BRIDGE,
    'Rated output 2 mV/V in the code, 3 mV/V on the load cell',
    'Rated output 3 mV/V in the code, 2 mV/V on the load cell',
    'Check the rating on the load cell’s label.',
    0.3,
  ),
  at(
    'both-edges',
    2,
    COUNTED,
    'Counted twice: both edges, or contact bounce',
    'Every second pulse missed',
    'Count ten slow pulses by hand and compare.',
  ),
  at(
    'quadrature',
    4,
    ['count', 'rpm', 'Hz', 'mm', 'm'],
    'All four quadrature edges counted as separate steps',
    'Only one of four quadrature edges counted',
    'Turn it once by hand and check the count.',
    0.2,
  ),
  at(
    'over-count',
    1.25,
    COUNTED,
    'One pulse in four counted twice: five instead of four',
    'One pulse in five missed: four instead of five',
    'Count twenty pulses by hand and note when the extra or missing ones occur.',
    0.4,
  ),
  at(
    'there-and-back',
    2,
    of('length'),
    'Round-trip distance read as one way',
    'One-way distance read as round trip',
    'Hold a board 1 m away: the reading shows whether it is half or double.',
  ),
  at(
    'drop',
    1 / 3,
    ['perMin', 'Hz', 'count'],
    'Two out of three pulses missed',
    'Each pulse counted three times',
    'Count ten slow pulses by hand and compare.',
    0.6,
  ),
  at(
    'millibar',
    0.750062,
    ['hPa', 'mbar', 'kPa'],
    'Reading in millimetres of mercury instead of hectopascals',
    null,
    'Compare with a barometer: about 1013 means hectopascals, about 760 means millimetres of mercury.',
    0.3,
  ),
  at(
    'psi',
    6.894757,
    ['psi', 'kPa'],
    'Reading in kilopascals instead of pounds per square inch',
    'Reading in pounds per square inch instead of kilopascals',
    'Pump up a tyre and compare with a gauge that has both scales.',
    0.2,
  ),
];

/** The factor slips that a reading of this unit can have. */
export function factorSlips(unit: UnitId): FactorSlip[] {
  return FACTORS.filter((f) => f.of.includes(unit)).flatMap((f) => [
    slip(f.id, f.factor, f.title, f),
    ...(f.inverse === null ? [] : [slip(`${f.id}-inverse`, 1 / f.factor, f.inverse, f)]),
  ]);
}

const slip = (id: string, factor: number, title: string, { test, cost }: Factor): FactorSlip => ({
  ids: [id],
  title,
  test,
  cost,
  edit: null,
  factor,
  correct: ({ shown }) => shown / factor,
});
