import { DIMENSIONS, UNITS, unitsOf, type DimensionName, type UnitId } from './table.ts';

/** The unit of a rate of change per second, where the table has one. */
const PER_SECOND: Partial<Record<UnitId, UnitId>> = {
  '1': 'Hz',
  m: 'mps',
  mps: 'mps2',
  mps2: 'mps3',
  gn: 'gnPerS',
  N: 'NperS',
  V: 'VPerS',
  degC: 'KPerS',
  K: 'KPerS',
  Pa: 'PaPerS',
  deg: 'degPerS',
  count: 'countPerS',
  J: 'W',
  C: 'A',
  Ns: 'N',
};

export function ratePerSecondUnit(unit: UnitId): UnitId | undefined {
  return PER_SECOND[unit];
}

/** The unit of an integral over seconds, where the table has one. */
export function integralUnit(unit: UnitId): UnitId | undefined {
  return (Object.keys(PER_SECOND) as UnitId[]).find((id) => id !== 'K' && PER_SECOND[id] === unit);
}

/** Units by which a product or quotient may be given: those with the same exponents of the base units. */
export function combinedUnits(a: UnitId, b: UnitId, divide = false): UnitId[] {
  const left = DIMENSIONS[UNITS[a].dimension];
  const right = DIMENSIONS[UNITS[b].dimension];
  const wanted = left.map((e, i) => e + (divide ? -right[i]! : right[i]!));
  return (Object.keys(DIMENSIONS) as DimensionName[])
    .filter((name) => name !== 'house' && DIMENSIONS[name].every((e, i) => e === wanted[i]))
    .flatMap((name) => unitsOf(name));
}
