/**
 * The units Lucky Needle knows. A unit belongs to one dimension and is tied to that dimension's SI unit by
 * `si = value * scale + zero`. Exact factors from the SI Brochure, 9th edition (2019), and NIST SP 811 (2008), appendix B.
 */
export interface UnitInfo {
  readonly dimension: DimensionName;
  readonly symbol: string;
  readonly name: string;
  readonly scale: number;
  /** Added after scaling; only temperatures on a shifted scale have one. */
  readonly zero: number;
  /** Other ways in which people write it; compared as they stand first, then without regard to case. */
  readonly aliases: readonly string[];
}

/** Exponents of metre, kilogram, second, ampere, kelvin, count. Dimensions that only a name tells apart share exponents. */
export const DIMENSIONS = {
  ratio: [0, 0, 0, 0, 0, 0],
  count: [0, 0, 0, 0, 0, 1],
  voltage: [2, 1, -3, -1, 0, 0],
  current: [0, 0, 0, 1, 0, 0],
  resistance: [2, 1, -3, -2, 0, 0],
  capacitance: [-2, -1, 4, 2, 0, 0],
  charge: [0, 0, 1, 1, 0, 0],
  energy: [2, 1, -2, 0, 0, 0],
  power: [2, 1, -3, 0, 0, 0],
  'apparent power': [2, 1, -3, 0, 0, 0],
  temperature: [0, 0, 0, 0, 1, 0],
  time: [0, 0, 1, 0, 0, 0],
  frequency: [0, 0, -1, 0, 0, 0],
  pressure: [-1, 1, -2, 0, 0, 0],
  length: [1, 0, 0, 0, 0, 0],
  volume: [3, 0, 0, 0, 0, 0],
  speed: [1, 0, -1, 0, 0, 0],
  acceleration: [1, 0, -2, 0, 0, 0],
  jerk: [1, 0, -3, 0, 0, 0],
  mass: [0, 1, 0, 0, 0, 0],
  density: [-3, 1, 0, 0, 0, 0],
  'mass concentration': [-3, 1, 0, 0, 0, 0],
  force: [1, 1, -2, 0, 0, 0],
  impulse: [1, 1, -1, 0, 0, 0],
  angle: [0, 0, 0, 0, 0, 0],
  'turning rate': [0, 0, -1, 0, 0, 0],
  'magnetic flux density': [0, 1, -2, -1, 0, 0],
  illuminance: [-2, 0, 0, 0, 0, 0],
  level: [0, 0, 0, 0, 0, 0],
  absorbance: [0, 0, 0, 0, 0, 0],
  'temperature rate': [0, 0, -1, 0, 1, 0],
  'voltage rate': [2, 1, -4, -1, 0, 0],
  'force rate': [1, 1, -3, 0, 0, 0],
  'pressure rate': [-1, 1, -3, 0, 0, 0],
  'count rate': [0, 0, -1, 0, 0, 1],
  house: [0, 0, 0, 0, 0, 0],
} as const satisfies Record<string, readonly [number, number, number, number, number, number]>;
export type DimensionName = keyof typeof DIMENSIONS;

const unit = (
  dimension: DimensionName,
  symbol: string,
  name: string,
  scale = 1,
  aliases: readonly string[] = [],
  zero = 0,
): UnitInfo => ({ dimension, symbol, name, scale, zero, aliases });

const G0 = 9.80665;
const INCH = 0.0254;
const POUND = 0.45359237;
const DEGREE = Math.PI / 180;

export const UNITS = {
  '1': unit('ratio', '', 'ratio'),
  percent: unit('ratio', '%', 'per cent', 0.01, ['pct', 'percent']),
  ppm: unit('ratio', 'ppm', 'parts per million', 1e-6),
  ppb: unit('ratio', 'ppb', 'parts per billion', 1e-9),
  sPerD: unit('ratio', 's/d', 'seconds per day', 1 / 86400),
  mVperV: unit('ratio', 'mV/V', 'millivolt per volt', 1e-3),
  count: unit('count', 'counts', 'raw counts', 1, ['count', 'ct', 'cts', 'lsb']),
  V: unit('voltage', 'V', 'volt', 1, ['volt', 'volts']),
  mV: unit('voltage', 'mV', 'millivolt', 1e-3),
  uV: unit('voltage', 'µV', 'microvolt', 1e-6),
  kV: unit('voltage', 'kV', 'kilovolt', 1e3),
  A: unit('current', 'A', 'ampere', 1, ['amp', 'amps']),
  mA: unit('current', 'mA', 'milliampere', 1e-3),
  uA: unit('current', 'µA', 'microampere', 1e-6),
  mohm: unit('resistance', 'mΩ', 'milliohm', 1e-3),
  ohm: unit('resistance', 'Ω', 'ohm', 1, ['ohms', 'r']),
  kohm: unit('resistance', 'kΩ', 'kilohm', 1e3, ['k', 'kohms']),
  Mohm: unit('resistance', 'MΩ', 'megohm', 1e6, ['meg', 'M']),
  F: unit('capacitance', 'F', 'farad'),
  uF: unit('capacitance', 'µF', 'microfarad', 1e-6),
  nF: unit('capacitance', 'nF', 'nanofarad', 1e-9),
  pF: unit('capacitance', 'pF', 'picofarad', 1e-12),
  C: unit('charge', 'C', 'coulomb'),
  mAh: unit('charge', 'mAh', 'milliampere-hour', 3.6),
  Ah: unit('charge', 'Ah', 'ampere-hour', 3600),
  J: unit('energy', 'J', 'joule'),
  kJ: unit('energy', 'kJ', 'kilojoule', 1e3),
  mWh: unit('energy', 'mWh', 'milliwatt-hour', 3.6),
  Wh: unit('energy', 'Wh', 'watt-hour', 3600),
  kWh: unit('energy', 'kWh', 'kilowatt-hour', 3.6e6),
  mW: unit('power', 'mW', 'milliwatt', 1e-3),
  W: unit('power', 'W', 'watt', 1, ['watts']),
  kW: unit('power', 'kW', 'kilowatt', 1e3),
  VA: unit('apparent power', 'VA', 'volt-ampere'),
  K: unit('temperature', 'K', 'kelvin'),
  degC: unit('temperature', '°C', 'degree Celsius', 1, ['degC', 'deg C', 'celsius', '℃', '° C'], 273.15),
  degF: unit(
    'temperature',
    '°F',
    'degree Fahrenheit',
    5 / 9,
    ['degF', 'deg F', 'fahrenheit', '℉', '° F'],
    459.67 * (5 / 9),
  ),
  s: unit('time', 's', 'second', 1, ['sec', 'secs', 'seconds']),
  ms: unit('time', 'ms', 'millisecond', 1e-3, ['msec']),
  us: unit('time', 'µs', 'microsecond', 1e-6, ['usec']),
  min: unit('time', 'min', 'minute', 60, ['minutes', 'mins']),
  h: unit('time', 'h', 'hour', 3600, ['hr', 'hrs', 'hours']),
  d: unit('time', 'd', 'day', 86400, ['day', 'days']),
  Hz: unit('frequency', 'Hz', 'hertz', 1, ['/s', 'per second']),
  kHz: unit('frequency', 'kHz', 'kilohertz', 1e3),
  MHz: unit('frequency', 'MHz', 'megahertz', 1e6),
  rpm: unit('frequency', 'rpm', 'revolutions per minute', 1 / 60, ['rev/min', 'r/min']),
  perMin: unit('frequency', '/min', 'per minute', 1 / 60, ['per minute', 'bpm', '1/min']),
  Pa: unit('pressure', 'Pa', 'pascal'),
  hPa: unit('pressure', 'hPa', 'hectopascal', 100),
  kPa: unit('pressure', 'kPa', 'kilopascal', 1e3),
  bar: unit('pressure', 'bar', 'bar', 1e5),
  mbar: unit('pressure', 'mbar', 'millibar', 100),
  psi: unit('pressure', 'psi', 'pound-force per square inch', (POUND * G0) / INCH ** 2),
  m: unit('length', 'm', 'metre', 1, ['metre', 'metres', 'meter', 'meters']),
  um: unit('length', 'µm', 'micrometre', 1e-6),
  mm: unit('length', 'mm', 'millimetre', 1e-3),
  cm: unit('length', 'cm', 'centimetre', 1e-2),
  km: unit('length', 'km', 'kilometre', 1e3),
  nm: unit('length', 'nm', 'nanometre', 1e-9),
  in: unit('length', 'in', 'inch', INCH, ['inch', 'inches', '"', '″']),
  ft: unit('length', 'ft', 'foot', 12 * INCH, ['foot', 'feet', "'", '′']),
  yd: unit('length', 'yd', 'yard', 36 * INCH, ['yard', 'yards']),
  mile: unit('length', 'mi', 'mile', 63360 * INCH, ['mile', 'miles']),
  m3: unit('volume', 'm³', 'cubic metre', 1, ['m3', 'm^3']),
  L: unit('volume', 'L', 'litre', 1e-3, ['litre', 'litres', 'liter', 'l']),
  mL: unit('volume', 'mL', 'millilitre', 1e-6, ['ml', 'cc']),
  mps: unit('speed', 'm/s', 'metre per second', 1, ['mps']),
  kmh: unit('speed', 'km/h', 'kilometre per hour', 1 / 3.6, ['kmh', 'kph']),
  mph: unit('speed', 'mph', 'mile per hour', (63360 * INCH) / 3600, ['mi/h']),
  knot: unit('speed', 'kn', 'knot', 1852 / 3600, ['knot', 'knots', 'kt', 'kts']),
  mps2: unit('acceleration', 'm/s²', 'metre per second squared', 1, ['m/s2', 'm/s^2']),
  gn: unit('acceleration', 'g', 'standard gravity', G0, ['gn', 'gee']),
  gnPerS: unit('jerk', 'g/s', 'standard gravity per second', G0),
  mps3: unit('jerk', 'm/s³', 'metre per second cubed', 1, ['m/s3', 'm/s^3']),
  kg: unit('mass', 'kg', 'kilogram'),
  g: unit('mass', 'g', 'gram', 1e-3, ['gram', 'grams']),
  mg: unit('mass', 'mg', 'milligram', 1e-6),
  lb: unit('mass', 'lb', 'pound', POUND, ['lbs', 'pound', 'pounds']),
  oz: unit('mass', 'oz', 'ounce', POUND / 16, ['ounce', 'ounces']),
  kgm3: unit('density', 'kg/m³', 'kilogram per cubic metre', 1, ['kg/m3']),
  mgL: unit('mass concentration', 'mg/L', 'milligram per litre', 1e-3, ['mg/l']),
  ugm3: unit('mass concentration', 'µg/m³', 'microgram per cubic metre', 1e-9, ['ug/m3']),
  N: unit('force', 'N', 'newton', 1, ['newton', 'newtons']),
  kN: unit('force', 'kN', 'kilonewton', 1e3),
  kgf: unit('force', 'kgf', 'kilogram-force', G0),
  lbf: unit('force', 'lbf', 'pound-force', POUND * G0),
  Ns: unit('impulse', 'N s', 'newton second', 1, ['N·s', 'Ns']),
  NperS: unit('force rate', 'N/s', 'newton per second'),
  rad: unit('angle', 'rad', 'radian'),
  deg: unit('angle', '°', 'degree', DEGREE, ['deg', 'degree', 'degrees']),
  degPerS: unit('turning rate', '°/s', 'degree per second', DEGREE, ['deg/s']),
  T: unit('magnetic flux density', 'T', 'tesla'),
  mT: unit('magnetic flux density', 'mT', 'millitesla', 1e-3),
  uT: unit('magnetic flux density', 'µT', 'microtesla', 1e-6),
  gauss: unit('magnetic flux density', 'G', 'gauss', 1e-4, ['gauss']),
  lx: unit('illuminance', 'lx', 'lux', 1, ['lux']),
  dB: unit('level', 'dB', 'decibel'),
  absorbance: unit('absorbance', 'abs', 'absorbance', 1, ['absorbance']),
  KPerS: unit('temperature rate', '°C/s', 'degree Celsius per second', 1, ['K/s', 'degC/s']),
  KPerMin: unit('temperature rate', '°C/min', 'degree Celsius per minute', 1 / 60, ['K/min', 'degC/min']),
  VPerS: unit('voltage rate', 'V/s', 'volt per second'),
  hPaPerH: unit('pressure rate', 'hPa/h', 'hectopascal per hour', 100 / 3600),
  PaPerS: unit('pressure rate', 'Pa/s', 'pascal per second'),
  countPerS: unit('count rate', 'counts/s', 'counts per second'),
  house: unit('house', 'hu (not traceable)', 'house unit, relative and not traceable', 1, ['hu']),
} as const satisfies Record<string, UnitInfo>;

export type UnitId = keyof typeof UNITS;

export const UNIT_IDS = Object.keys(UNITS) as UnitId[];

/** Units of one dimension, in table order. */
export function unitsOf(dimension: string): UnitId[] {
  return UNIT_IDS.filter((id) => UNITS[id].dimension === dimension);
}
