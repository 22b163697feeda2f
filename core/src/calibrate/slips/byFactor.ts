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
    `Turned from ${UNITS[shown].name} into ${UNITS[meant].name} once too often`,
    test,
    cost,
  ),
  at(
    id,
    1 / factor,
    [shown],
    between(meant, shown),
    `Turned from ${UNITS[meant].name} into ${UNITS[shown].name} once too often`,
    test,
    cost,
  ),
];
const between = (shown: UnitId, meant: UnitId) =>
  `${capital(UNITS[shown].name)} shown where ${UNITS[meant].name} is meant`;
const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

const WALK = 'Walk at a known pace: 1.4 m/s is 5.0 km/h, 3.1 mph and 2.7 knots.';
const TURN = 'Turn it by hand once a second: that is 1 Hz, 60 a minute, 6.28 rad/s and 360 degrees a second.';
const HANG = 'Hang 1 kg on it: 1 means kilograms, 9.8 newtons, 2.2 pounds.';
const RULE = 'Measure something 100 mm long: 3.94 means inches, 10 centimetres.';

/** Slips that are one number, by what they can be met in. A new one is one line. */
const FACTORS: readonly Factor[] = [
  at(
    'milli',
    1000,
    [...PREFIXED, ...of('ratio', 'mass concentration', 'frequency')],
    'Milli taken for whole units: a thousand times too large',
    'Whole units taken for milli: a thousand times too small',
    'Print the value with its unit at each stage and find where it jumps by 1000.',
  ),
  at(
    'micro',
    1e6,
    [...of('voltage', 'current', 'time', 'capacitance', 'length'), 'ppm', '1'],
    'Micro taken for whole units: a million times too large',
    'Whole units taken for micro: a million times too small',
    'Print the value with its unit at each stage and find where it jumps by a million.',
    0.6,
  ),
  at(
    'centi',
    100,
    [...of('ratio', 'absorbance', 'pressure'), 'm', 'cm', '1'],
    'Per cent or centi taken for whole: a hundred times too large',
    'Whole taken for per cent or centi: a hundred times too small',
    'Look for a factor of 100 in the formula.',
    0.3,
  ),
  at(
    'ten',
    10,
    Object.keys(UNITS) as UnitId[],
    'A decimal point one place to the right',
    'A decimal point one place to the left',
    'Read the constant in the code against the data sheet, digit by digit.',
    0.6,
  ),
  at(
    'gravity',
    9.80665,
    of('mass'),
    'Newtons shown where kilograms are meant',
    'Gravity taken out twice: kilograms divided by 9.81',
    HANG,
  ),
  at(
    'gravity',
    9.80665,
    [...of('force', 'impulse')],
    'Gravity put in twice: newtons multiplied by 9.81',
    'Kilograms shown where newtons are meant',
    HANG,
  ),
  at(
    'gravity',
    9.80665,
    ['gn'],
    'Metres a second squared shown where g is meant',
    'g divided by 9.81 once too often',
    'Lay it flat at rest: 1 means g, 9.8 metres a second squared.',
  ),
  at(
    'gravity',
    9.80665,
    ['mps2', 'mps3'],
    'g turned into metres a second squared twice',
    'g shown where metres a second squared are meant',
    'Lay it flat at rest: 1 means g, 9.8 metres a second squared.',
  ),
  at('newton-pound', 4.4482216152605, ['lbf'], 'Newtons shown where pounds-force are meant', null, HANG, 0.2),
  at(
    'newton-pound',
    4.4482216152605,
    ['N'],
    'Pounds turned into newtons once too often',
    'Pounds-force shown where newtons are meant',
    HANG,
    0.2,
  ),
  at(
    'pound',
    2.20462262,
    [...of('mass'), 'kgf'],
    'Pounds shown where kilograms are meant',
    'Kilograms turned into pounds the wrong way round',
    HANG,
    0.1,
  ),
  at(
    'ounce',
    28.349523125,
    ['oz', 'g'],
    'Grams shown where ounces are meant',
    'Ounces shown where grams are meant',
    HANG,
    0.4,
  ),
  at(
    'inch',
    25.4,
    ['in', 'mm'],
    'Millimetres shown where inches are meant',
    'Inches shown where millimetres are meant',
    RULE,
  ),
  at(
    'inch',
    2.54,
    ['in', 'cm'],
    'Centimetres shown where inches are meant',
    'Inches shown where centimetres are meant',
    RULE,
    0.2,
  ),
  at(
    'centimetre',
    10,
    ['cm', 'mm'],
    'Millimetres shown where centimetres are meant',
    'Centimetres shown where millimetres are meant',
    RULE,
    0.1,
  ),
  at(
    'foot',
    3.280839895,
    ['m', 'ft', 'mps'],
    'Feet shown where metres are meant',
    'Metres shown where feet are meant',
    'Measure 1 m: 3.28 means feet.',
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
    'A factor of 60 too large: per minute shown where per second is meant, or seconds for minutes',
    'A factor of 60 too small: per second shown where per minute is meant, or minutes for seconds',
    TURN,
  ),
  at(
    'hours',
    3600,
    ['h', 's', 'mAh', 'Ah', 'Wh', 'mWh', 'C', 'J'],
    'Seconds counted where hours are meant',
    'Hours counted where seconds are meant',
    'Let it run for one minute at a known value and look at the sum.',
    0.2,
  ),
  at(
    'coulomb',
    3.6,
    ['mAh', 'C'],
    'Coulombs shown where milliampere-hours are meant',
    'Milliampere-hours shown where coulombs are meant',
    'Let 1 A flow for a minute: 60 means coulombs, 16.7 milliampere-hours.',
    0.2,
  ),
  at(
    'radians',
    2 * Math.PI,
    ['Hz'],
    'Radians a second shown where turns a second are meant',
    'Turns a second divided by 6.28 once too often',
    TURN,
    0.1,
  ),
  at(
    'radians',
    60 / (2 * Math.PI),
    ['rpm', 'perMin'],
    'Radians a second taken for turns a second',
    'Radians a second shown where turns a minute are meant',
    TURN,
    0.1,
  ),
  at(
    'degrees-a-second',
    6,
    ['rpm', 'perMin'],
    'Degrees a second shown where turns a minute are meant',
    'Turns a minute divided by 6 once too often',
    TURN,
    0.2,
  ),
  at(
    'degrees-a-second',
    360,
    ['Hz', 'degPerS'],
    'Degrees a second shown where turns a second are meant',
    'Turns a second shown where degrees a second are meant',
    TURN,
    0.3,
  ),
  at(
    'degrees',
    180 / Math.PI,
    of('angle', 'turning rate'),
    'Degrees where radians are meant',
    'Radians where degrees are meant',
    'Ask for a right angle: 90 means degrees, 1.57 radians.',
  ),
  at(
    'rms',
    Math.SQRT2,
    of('voltage', 'current'),
    'Peak shown where RMS is meant',
    'RMS shown where peak is meant',
    'Feed a sine from a reference: peak over RMS is 1.414.',
  ),
  at(
    'rectified',
    Math.PI / (2 * Math.SQRT2),
    of('voltage', 'current'),
    'The mean of the rectified wave taken up by 1.11 twice',
    'The mean of the rectified wave shown where RMS is meant',
    'Feed a sine from a reference: RMS over the rectified mean is 1.111.',
    0.5,
  ),
  at(
    'real-power',
    2,
    of('power', 'apparent power', 'energy'),
    'Peaks multiplied where RMS values are meant',
    'Half of the power: one half wave only',
    'Put a resistive load on it: watts must be volts times amperes.',
    0.2,
  ),
  at(
    'three-phase',
    Math.sqrt(3),
    of('voltage'),
    'Line voltage where phase voltage is meant',
    'Phase voltage where line voltage is meant',
    'Measure between two lines, then between a line and neutral.',
    0.5,
  ),
  at(
    'reference',
    5 / 3.3,
    ANALOG,
    'Reference taken as 5 V but is 3.3 V',
    'Reference taken as 3.3 V but is 5 V',
    'Measure the reference pin with a meter.',
    0.1,
  ),
  at(
    'reference-2.048',
    3.3 / 2.048,
    ANALOG,
    'Reference taken as 3.3 V but is 2.048 V',
    'Reference taken as 2.048 V but is 3.3 V',
    'Measure the reference pin with a meter.',
    0.4,
  ),
  at(
    'bits-10-12',
    4095 / 1023,
    ANALOG,
    'A 12-bit converter read as 10-bit',
    'A 10-bit converter read as 12-bit',
    'Tie the input to the reference: the largest count is 1023 or 4095.',
  ),
  at(
    'bits-10-8',
    1023 / 255,
    ANALOG,
    'A 10-bit converter read as 8-bit',
    'An 8-bit converter read as 10-bit',
    'Tie the input to the reference: the largest count is 255 or 1023.',
    0.4,
  ),
  at(
    'bits-12-16',
    65535 / 4095,
    ANALOG,
    'A 16-bit converter read as 12-bit',
    'A 12-bit converter read as 16-bit',
    'Tie the input to the reference: the largest count is 4095 or 65535.',
    0.2,
  ),
  at(
    'bits-16-24',
    256,
    BRIDGE,
    'A 24-bit converter read as 16-bit',
    'A 16-bit converter read as 24-bit',
    'Print the raw number: with 24 bits it goes beyond 65535.',
    0.2,
  ),
  at(
    'unsigned',
    2,
    [...ANALOG, ...BRIDGE],
    'Signed codes scaled by the unsigned full scale',
    'The unsigned full scale taken for signed codes',
    'Print the raw number at full load: half of the codes belong to the other sign.',
    0.3,
  ),
  at(
    'natural-log',
    Math.LN10,
    of('absorbance', 'level'),
    'Natural logarithm where log10 is meant',
    'log10 where the natural logarithm is meant',
    'Put a filter of 10 % in: log10 gives 1, the natural logarithm 2.3.',
  ),
  at(
    'natural-log',
    Math.LN10,
    of('mass concentration'),
    'Natural logarithm where log10 is meant',
    'log10 where the natural logarithm is meant',
    'Put a filter of 10 % in: log10 gives 1, the natural logarithm 2.3.',
    0.2,
  ),
  at(
    'dilution',
    10,
    of('mass concentration'),
    'The dilution is counted twice',
    'The dilution is not counted',
    'Measure the same sample undiluted, or diluted twice as far.',
  ),
  at(
    'range',
    2,
    of('acceleration', 'jerk', 'magnetic flux density'),
    'Range set one step narrower than the code thinks',
    'Range set one step wider than the code thinks',
    'Lay it flat at rest: each axis pointing up must read 1 g.',
  ),
  at(
    'range-2',
    4,
    of('acceleration', 'jerk', 'magnetic flux density'),
    'Range set two steps narrower than the code thinks',
    'Range set two steps wider than the code thinks',
    'Read the range register back and compare it with the constant in the code.',
    0.1,
  ),
  at(
    'range-3',
    8,
    of('acceleration', 'jerk', 'magnetic flux density'),
    'Range set three steps narrower than the code thinks',
    'Range set three steps wider than the code thinks',
    'Read the range register back and compare it with the constant in the code.',
    0.2,
  ),
  at(
    'gain',
    2,
    BRIDGE,
    'Gain or rated output one step off: twice too large',
    'Gain or rated output one step off: half',
    'Read the gain setting back, and the rating on the cell’s label.',
    0.1,
  ),
  at(
    'gain-4',
    4,
    BRIDGE,
    'Gain two steps off: four times too large',
    'Gain two steps off: a quarter',
    'Read the gain setting back from the amplifier, or follow its gain pin.',
    0.2,
  ),
  at(
    'gain-1.5',
    1.5,
    BRIDGE,
    'Rated output of 2 mV/V in the code, 3 mV/V on the cell',
    'Rated output of 3 mV/V in the code, 2 mV/V on the cell',
    'Read the rating on the cell’s label.',
    0.3,
  ),
  at(
    'both-edges',
    2,
    COUNTED,
    'Counted twice: both edges, or bounce',
    'Every second one missed',
    'Count ten slow ones by hand beside it.',
  ),
  at(
    'quadrature',
    4,
    ['count', 'rpm', 'Hz', 'mm', 'm'],
    'All four edges of two tracks counted as one',
    'One edge of four counted',
    'Turn it once by hand and count.',
    0.2,
  ),
  at(
    'over-count',
    1.25,
    COUNTED,
    'One in four counted twice: five for four',
    'One in five missed: four for five',
    'Count twenty by hand beside it, and look at when the wrong ones come.',
    0.4,
  ),
  at(
    'there-and-back',
    2,
    of('length'),
    'The way there and back counted as one way',
    'One way counted as there and back',
    'Put a board at 1 m: half or double tells which.',
  ),
  at(
    'drop',
    1 / 3,
    ['perMin', 'Hz', 'count'],
    'Two of three missed',
    'Each counted three times',
    'Count ten slow ones by hand beside it.',
    0.6,
  ),
  at(
    'millibar',
    0.750062,
    ['hPa', 'mbar', 'kPa'],
    'Millimetres of mercury shown where hectopascals are meant',
    null,
    'Look at a barometer: 1013 means hectopascals, 760 mm of mercury.',
    0.3,
  ),
  at(
    'psi',
    6.894757,
    ['psi', 'kPa'],
    'Kilopascals shown where pounds per square inch are meant',
    'Pounds per square inch shown where kilopascals are meant',
    'Pump a tyre up beside a gauge with both scales.',
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
