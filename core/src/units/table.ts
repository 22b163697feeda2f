/**
 * The units Lucky Needle knows. A unit belongs to one dimension and is tied to that dimension's SI unit by
 * `si = value * scale + zero`. Exact factors from the SI Brochure, 9th edition (2019), and NIST SP 811 (2008), appendix B.
 */
export interface UnitInfo {
  readonly dimension: string;
  readonly symbol: string;
  readonly name: string;
  readonly scale: number;
  /** Added after scaling; only temperatures on a shifted scale have one. */
  readonly zero: number;
}

const unit = (dimension: string, symbol: string, name: string, scale = 1, zero = 0): UnitInfo => ({
  dimension,
  symbol,
  name,
  scale,
  zero,
});

export const UNITS = {
  '1': unit('ratio', '', 'ratio'),
  percent: unit('ratio', '%', 'per cent', 0.01),
  ppm: unit('ratio', 'ppm', 'parts per million', 1e-6),
  count: unit('count', 'counts', 'converter counts'),
  V: unit('voltage', 'V', 'volt'),
  mV: unit('voltage', 'mV', 'millivolt', 1e-3),
  A: unit('current', 'A', 'ampere'),
  mA: unit('current', 'mA', 'milliampere', 1e-3),
  ohm: unit('resistance', 'Ω', 'ohm'),
  kohm: unit('resistance', 'kΩ', 'kilohm', 1e3),
  K: unit('temperature', 'K', 'kelvin'),
  degC: unit('temperature', '°C', 'degree Celsius', 1, 273.15),
  degF: unit('temperature', '°F', 'degree Fahrenheit', 5 / 9, 459.67 * (5 / 9)),
  s: unit('time', 's', 'second'),
  ms: unit('time', 'ms', 'millisecond', 1e-3),
  min: unit('time', 'min', 'minute', 60),
  h: unit('time', 'h', 'hour', 3600),
  Hz: unit('frequency', 'Hz', 'hertz'),
  Pa: unit('pressure', 'Pa', 'pascal'),
  hPa: unit('pressure', 'hPa', 'hectopascal', 100),
  m: unit('length', 'm', 'metre'),
  mm: unit('length', 'mm', 'millimetre', 1e-3),
  cm: unit('length', 'cm', 'centimetre', 1e-2),
  kg: unit('mass', 'kg', 'kilogram'),
  g: unit('mass', 'g', 'gram', 1e-3),
  N: unit('force', 'N', 'newton'),
  W: unit('power', 'W', 'watt'),
} as const satisfies Record<string, UnitInfo>;

export type UnitId = keyof typeof UNITS;

export const UNIT_IDS = Object.keys(UNITS) as UnitId[];

/** Units of one dimension, in table order. */
export function unitsOf(dimension: string): UnitId[] {
  return UNIT_IDS.filter((id) => UNITS[id].dimension === dimension);
}
