/** A slip that multiplies the shown value, with the one-step test that would confirm it. */
export interface SlipFactor {
  readonly id: string;
  /** Shown over true. Both this and its inverse are tried. */
  readonly factor: number;
  readonly title: string;
  /** Title of the inverse slip. */
  readonly inverse: string;
  readonly test: string;
  /** How seldom it is met: added to the rank. */
  readonly rarity: number;
}

const slip = (
  id: string,
  factor: number,
  title: string,
  inverse: string,
  test: string,
  rarity = 0,
): SlipFactor => ({
  id,
  factor,
  title,
  inverse,
  test,
  rarity,
});

export const SLIP_FACTORS: readonly SlipFactor[] = [
  slip(
    'milli',
    1000,
    'Milli taken for whole units (shown a thousand times too large)',
    'Whole units taken for milli (shown a thousand times too small)',
    'Print the value with its unit at each stage and find where it jumps by 1000.',
  ),
  slip(
    'micro',
    1e6,
    'Micro taken for whole units',
    'Whole units taken for micro',
    'Print the value with its unit at each stage and find where it jumps by a million.',
    0.3,
  ),
  slip(
    'centi',
    100,
    'Per cent or centi taken for whole',
    'Whole taken for per cent or centi',
    'Look for a factor of 100 in the formula.',
    0.2,
  ),
  slip(
    'ten',
    10,
    'A decimal point one place to the right',
    'A decimal point one place to the left',
    'Read the constant in the code against the data sheet, digit by digit.',
    0.4,
  ),
  slip(
    'gravity',
    9.80665,
    'Newtons shown where kilograms are meant',
    'Kilograms shown where newtons are meant',
    'Hang 1 kg on it: 1 means kilograms, 9.8 means newtons.',
  ),
  slip(
    'newton-pound',
    4.4482216152605,
    'Newtons shown where pounds-force are meant',
    'Pounds-force shown where newtons are meant',
    'Hang 1 kg on it: 9.8 means newtons, 2.2 pounds-force.',
    0.2,
  ),
  slip(
    'pound',
    2.20462262,
    'Pounds shown where kilograms are meant',
    'Kilograms shown where pounds are meant',
    'Put 1 kg on it: 2.2 means pounds.',
    0.1,
  ),
  slip(
    'inch',
    25.4,
    'Millimetres shown where inches are meant',
    'Inches shown where millimetres are meant',
    'Measure something 100 mm long: 3.94 means inches.',
  ),
  slip(
    'foot',
    3.280839895,
    'Feet shown where metres are meant',
    'Metres shown where feet are meant',
    'Measure 1 m: 3.28 means feet.',
    0.2,
  ),
  slip(
    'speed',
    3.6,
    'Kilometres an hour shown where metres a second are meant',
    'Metres a second shown where kilometres an hour are meant',
    'Walk at a known pace: 1.4 m/s is 5 km/h.',
    0.1,
  ),
  slip(
    'sixty',
    60,
    'Per minute shown where per second is meant',
    'Per second shown where per minute is meant',
    'Turn it by hand once a second: 60 means per minute, 1 per second.',
  ),
  slip(
    'degrees',
    180 / Math.PI,
    'Degrees where radians are meant',
    'Radians where degrees are meant',
    'Ask for a right angle: 90 means degrees, 1.57 radians.',
  ),
  slip(
    'rms',
    Math.SQRT2,
    'Peak shown where RMS is meant',
    'RMS shown where peak is meant',
    'Feed a sine from a reference: peak over RMS is 1.414.',
  ),
  slip(
    'three-phase',
    Math.sqrt(3),
    'Line voltage where phase voltage is meant',
    'Phase voltage where line voltage is meant',
    'Measure between two lines, then between a line and neutral.',
    0.5,
  ),
  slip(
    'reference',
    5 / 3.3,
    'Reference taken as 5 V but is 3.3 V',
    'Reference taken as 3.3 V but is 5 V',
    'Measure the reference pin with a meter.',
  ),
  slip(
    'bits-10-12',
    4095 / 1023,
    'A 12-bit converter read as 10-bit',
    'A 10-bit converter read as 12-bit',
    'Tie the input to the reference: the largest count is 1023 or 4095.',
  ),
  slip(
    'bits-10-8',
    1023 / 255,
    'A 10-bit converter read as 8-bit',
    'An 8-bit converter read as 10-bit',
    'Tie the input to the reference: the largest count is 255 or 1023.',
    0.3,
  ),
  slip(
    'bits-12-16',
    65535 / 4095,
    'A 16-bit converter read as 12-bit',
    'A 12-bit converter read as 16-bit',
    'Tie the input to the reference: the largest count is 4095 or 65535.',
    0.2,
  ),
  slip(
    'full-scale',
    4 / 2,
    'Range set one step too wide, or counted twice',
    'Range set one step too narrow, or every second one missed',
    'Count ten slow strokes by hand; if the count is right, look at the range setting.',
    0.1,
  ),
  slip(
    'gain-128-64',
    4,
    'Range or gain two steps off (a factor 4)',
    'Range or gain two steps off the other way (a quarter)',
    'Read the range register back and compare it with the constant in the code.',
    0.2,
  ),
  slip(
    'gain-128-32',
    8,
    'Range or gain three steps off (a factor 8)',
    'Range or gain three steps off the other way (an eighth)',
    'Read the range register back and compare it with the constant in the code.',
    0.4,
  ),
];
