import { dateOf } from '../units/dates.ts';
import { KNOT, nmeaChecksum } from './nmeaFields.ts';

/** One RMC and one GGA sentence for a fix, with line ends. @param timeS seconds since 1970 */
export function nmeaFix(timeS: number, values: readonly number[]): string {
  const [latitude, longitude, speed, course, altitude, satellites, hdop] = values as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const ms = Math.round(timeS * 1000);
  const ofDay = ((ms % 86_400_000) + 86_400_000) % 86_400_000;
  const [minute, rest] = [Math.floor(ofDay / 60_000), ofDay % 60_000];
  const clock = `${two(Math.floor(minute / 60))}${two(minute % 60)}${(rest / 1000).toFixed(3).padStart(6, '0')}`;
  const [y, m, d] = dateOf(Math.floor(ms / 86_400_000));
  const position = `${angle(latitude, 2)},${latitude < 0 ? 'S' : 'N'},${angle(longitude, 3)},${longitude < 0 ? 'W' : 'E'}`;
  const or = (v: number, digits: number) => (Number.isFinite(v) ? v.toFixed(digits) : '');
  const sentences = [
    `GPRMC,${clock},A,${position},${or(speed / KNOT, 4)},${or(course, 2)},${two(d)}${two(m)}${two(y % 100)},,`,
    `GPGGA,${clock},${position},1,${Number.isFinite(satellites) ? two(satellites) : ''},${or(hdop, 2)},${or(altitude, 2)},M,,M,,`,
  ];
  return sentences.map((s) => `$${s}*${nmeaChecksum(s)}\r\n`).join('');
}

const two = (v: number) => String(v).padStart(2, '0');

function angle(value: number, digits: number): string {
  // Rounded before it is cut, or 59.9999999 minutes would stand there as 60.
  const millionths = Math.round(Math.abs(value) * 60e6);
  const whole = Math.floor(millionths / 60e6);
  return `${String(whole).padStart(digits, '0')}${((millionths - whole * 60e6) / 1e6).toFixed(6).padStart(9, '0')}`;
}
