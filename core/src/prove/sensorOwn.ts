import type { SensorPart } from '../model/part.ts';
import { convertDifference, convertUnit, UNITS, type UnitId } from '../units/index.ts';

/** What the picked sensor is by itself, as the shelf has it. */
export type SensorOwn = Pick<
  SensorPart,
  | 'title'
  | 'unit'
  | 'signal'
  | 'accuracyFixed'
  | 'accuracyShare'
  | 'afterTrueUp'
  | 'temperatureShare'
  | 'responseS'
  | 'noise'
>;

/** Whether readings come from it as numbers: nothing between it and the board can put them wrong. */
export const givesNumbers = ({ signal }: SensorOwn): boolean =>
  (['number', 'codes', 'edges'] as readonly string[]).includes(signal);

/** Half-width of the error as bought at a reading, in the part's unit: its fixed part and its share of the reading, combined in quadrature. */
export const asBought = (part: Pick<SensorOwn, 'accuracyFixed' | 'accuracyShare'>, at: number): number =>
  Math.hypot(part.accuracyFixed, part.accuracyShare * at);

/** The same in the unit of the readings; NaN where the part says nothing of it, or feels another quantity. */
export function boughtHalf(part: SensorOwn | null, reading: number, unit: UnitId): number {
  if (!part || !feelsThe(part, unit)) return Number.NaN;
  const half = asBought(part, convertUnit(reading, unit, part.unit));
  return half > 0 ? convertDifference(half, part.unit, unit) : Number.NaN;
}

/** How far the sensor is taken to get warmer or colder than it was at the true-up, K. */
export const WARMER_BY_K = 10;

/** Half-width of what that moves a reading by, in the unit of the readings; 0 where the part states nothing of it. */
export function warmthHalf(part: SensorOwn | null, reading: number, unit: UnitId): number {
  if (!part?.temperatureShare || !feelsThe(part, unit)) return 0;
  const half = WARMER_BY_K * part.temperatureShare * Math.abs(convertUnit(reading, unit, part.unit));
  return convertDifference(half, part.unit, unit);
}

/** Half-width that a true-up leaves in the surroundings that it was made in, typical of the kind; NaN as well. */
export function leftHalf(part: SensorOwn | null, unit: UnitId): number {
  if (!part || !feelsThe(part, unit) || !(part.afterTrueUp > 0)) return Number.NaN;
  return convertDifference(part.afterTrueUp, part.unit, unit);
}

/** Standard deviation of single readings by the shelf, in the unit of the readings; NaN as well. */
export function shelfNoise(part: SensorOwn | null, unit: UnitId): number {
  if (!part || !feelsThe(part, unit) || !(part.noise > 0)) return Number.NaN;
  return convertDifference(part.noise, part.unit, unit);
}

const feelsThe = (part: SensorOwn, unit: UnitId) => UNITS[part.unit].dimension === UNITS[unit].dimension;
