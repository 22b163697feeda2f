import type { UnitId } from '../units/index.ts';
import { FIX_COLUMNS } from './nmea.ts';

export type FixColumn = (typeof FIX_COLUMNS)[number]['name'];

/** What receivers and their makers call the columns of a fix. */
const NAMES: Readonly<Record<FixColumn, readonly string[]>> = {
  latitude: ['latitude', 'lat', 'latdeg'],
  longitude: ['longitude', 'lon', 'lng', 'long', 'londeg'],
  speed: ['speed', 'groundspeed', 'speedoverground'],
  course: ['course', 'courseoverground', 'track'],
  altitude: ['altitude', 'alt', 'elevation', 'ele', 'height'],
  satellites: ['satellites', 'sats', 'nsat', 'numsats'],
  hdop: ['hdop', 'dilution'],
};

/** Which column of a fix a name means; null for none. */
export function fixColumnOf(name: string): FixColumn | null {
  const plain = name
    .toLowerCase()
    .replace(/ raw$/, '')
    .replace(/[^a-z]/g, '');
  return FIX_COLUMNS.find((c) => NAMES[c.name].includes(plain))?.name ?? null;
}

/** Receivers that count send ten-millionths of a degree. */
const COUNTED = 1e-7;

/** A latitude or longitude in degrees, of a column that holds degrees or counts them. */
export const degreesOf = (value: number, unit: UnitId): number =>
  unit === 'count' && Number.isInteger(value) && Math.abs(value) > 180 ? value * COUNTED : value;
