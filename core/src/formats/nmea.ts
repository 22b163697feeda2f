import { dateOf, daysFrom1970 } from '../units/dates.ts';
import { lineSplitter } from './lineSplitter.ts';
import { timeGuard, type TableReader, type TableSink } from './tableSink.ts';

const KNOT = 1852 / 3600;
/** Columns of a fix, in this order. */
export const FIX_COLUMNS = [
  { name: 'latitude', unit: 'deg' },
  { name: 'longitude', unit: 'deg' },
  { name: 'speed', unit: 'mps' },
  { name: 'course', unit: 'deg' },
  { name: 'altitude', unit: 'm' },
  { name: 'satellites', unit: 'count' },
  { name: 'hdop', unit: '1' },
] as const;

interface Fix {
  secondOfDay: number;
  latitude: number;
  longitude: number;
  speed: number;
  course: number;
  altitude: number;
  satellites: number;
  hdop: number;
}

/** Sum that follows the asterisk of a sentence: exclusive or of the characters between $ and *. */
export function nmeaChecksum(body: string): string {
  let sum = 0;
  for (let i = 0; i < body.length; i++) sum ^= body.charCodeAt(i);
  return sum.toString(16).toUpperCase().padStart(2, '0');
}

/**
 * Reads NMEA 0183 sentences: RMC (position, speed, course, date) and GGA (altitude, satellites, dilution) of the same instant
 * become one row. Sentences of other kinds are passed over; a wrong checksum, no fix or a broken field is an issue.
 * Until an RMC has told the date, time is seconds of the day.
 */
export function nmeaReader(sink: TableSink): TableReader {
  let row = 0;
  let day = 0;
  let fix: Fix | null = null;
  let lastSecond = Number.NEGATIVE_INFINITY;
  const inOrder = timeGuard(sink);
  sink.columns(FIX_COLUMNS);
  const issue = (code: string, text: string) => sink.issue({ code, row, text: `Line ${row}: ${text}` });

  function give(): void {
    if (!fix) return;
    const { secondOfDay, latitude, longitude, speed, course, altitude, satellites, hdop } = fix;
    fix = null;
    // Past midnight before the next RMC brings the new date.
    if (day > 0 && secondOfDay < lastSecond - 43200) day++;
    lastSecond = secondOfDay;
    const timeS = day * 86400 + secondOfDay;
    if (inOrder(row, timeS))
      sink.row(timeS, [latitude, longitude, speed, course, altitude, satellites, hdop]);
  }

  function at(secondOfDay: number): Fix {
    if (!fix || fix.secondOfDay !== secondOfDay) {
      give();
      const n = Number.NaN;
      fix = {
        secondOfDay,
        latitude: n,
        longitude: n,
        speed: n,
        course: n,
        altitude: n,
        satellites: n,
        hdop: n,
      };
    }
    return fix;
  }

  const split = lineSplitter((raw) => {
    row++;
    const line = raw.trim();
    if (line === '') return;
    const match = /^[$!]([^*]*)(?:\*([0-9A-Fa-f]{2}))?$/.exec(line);
    if (!match) return issue('not-a-sentence', `"${line.slice(0, 40)}" is no sentence.`);
    const [, body, sum] = match;
    if (sum === undefined) return issue('no-checksum', 'the checksum is missing.');
    if (sum.toUpperCase() !== nmeaChecksum(body!))
      return issue('checksum', `checksum ${sum}, but the sentence makes ${nmeaChecksum(body!)}.`);
    const f = body!.split(',');
    const kind = f[0]!.slice(-3);
    if (kind === 'RMC') readRmc(f);
    else if (kind === 'GGA') readGga(f);
  }, 1024);

  function readRmc(f: readonly string[]): void {
    if (f[2] !== 'A') return issue('no-fix', 'the receiver has no fix (status V).');
    const second = secondOfDay(f[1]);
    const [latitude, longitude] = [degrees(f[3], f[4], 'NS', 90), degrees(f[5], f[6], 'EW', 180)];
    const date = /^(\d{2})(\d{2})(\d{2})$/.exec(f[9] ?? '');
    if (Number.isNaN(second + latitude + longitude) || !date)
      return issue('broken', 'a field of RMC cannot be read.');
    const now = at(second);
    const year = Number(date[3]) + (Number(date[3]) < 80 ? 2000 : 1900);
    day = daysFrom1970(year, Number(date[2]), Number(date[1]));
    lastSecond = second;
    now.latitude = latitude;
    now.longitude = longitude;
    now.speed = numberOf(f[7]) * KNOT;
    now.course = numberOf(f[8]);
  }

  function readGga(f: readonly string[]): void {
    if (f[6] === '0' || f[6] === '') return issue('no-fix', 'the receiver has no fix (quality 0).');
    const second = secondOfDay(f[1]);
    const [latitude, longitude] = [degrees(f[2], f[3], 'NS', 90), degrees(f[4], f[5], 'EW', 180)];
    if (Number.isNaN(second + latitude + longitude)) return issue('broken', 'a field of GGA cannot be read.');
    const now = at(second);
    now.latitude = latitude;
    now.longitude = longitude;
    now.satellites = numberOf(f[7]);
    now.hdop = numberOf(f[8]);
    now.altitude = numberOf(f[9]);
  }

  return {
    push: split,
    finish() {
      split('\n');
      give();
    },
  };
}

const numberOf = (text: string | undefined) =>
  text !== undefined && /^-?\d+(\.\d+)?$/.test(text) ? Number(text) : Number.NaN;

function secondOfDay(text: string | undefined): number {
  const m = /^(\d{2})(\d{2})(\d{2}(?:\.\d+)?)$/.exec(text ?? '');
  if (!m || Number(m[1]) > 23 || Number(m[2]) > 59 || Number(m[3]) >= 61) return Number.NaN;
  return Number(m[1]) * 3600 + Number(m[2]) * 60 + Number(m[3]);
}

/** ddmm.mmmm and a letter to degrees, south and west negative. @param letters that may stand there @param most degrees */
function degrees(
  text: string | undefined,
  letter: string | undefined,
  letters: string,
  most: number,
): number {
  const m = /^(\d{2,3})(\d{2}(?:\.\d+)?)$/.exec(text ?? '');
  if (!m || letter?.length !== 1 || !letters.includes(letter) || Number(m[2]) >= 60) return Number.NaN;
  const size = Number(m[1]) + Number(m[2]) / 60;
  if (size > most) return Number.NaN;
  return letter === 'S' || letter === 'W' ? -size : size;
}

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
