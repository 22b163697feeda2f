import { daysFrom1970 } from '../units/dates.ts';
import { fileTimes } from './fileTimes.ts';
import { lineSplitter } from './lineSplitter.ts';
import { degrees, KNOT, nmeaChecksum, numberOf, secondOfDay } from './nmeaFields.ts';
import type { TableReader, TableSink } from './tableSink.ts';

/** Columns of a fix, in this order; behind them the satellites of further systems, where there are. */
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
  readonly row: number;
  readonly secondOfDay: number;
  /** Since 1970; null where this fix tells no date. */
  day: number | null;
  /** Kinds of sentences that it was made of, with who sent each. */
  readonly kinds: Map<string, string>;
  latitude: number;
  longitude: number;
  speed: number;
  course: number;
  altitude: number;
  satellites: number;
  hdop: number;
  /** Of further systems, by sender. */
  readonly further: Map<string, number>;
}

export interface NmeaOptions {
  /** Fixes that wait for the first date, to be dated back; when none came by then, times are seconds of the day. */
  readonly mostUndated?: number;
}

/** Longest time between sentences of one fix where receivers stamp them differently, s. */
const TOGETHER_S = 0.5;
const HALF_DAY_S = 43_200;

/**
 * Reads NMEA 0183 sentences: RMC (position, speed, course, date), GGA (altitude, satellites, dilution), VTG (speed, course)
 * and ZDA (date) of one instant become one row. Sentences of other kinds are ignored; a wrong checksum, no fix, a broken
 * field or bytes between sentences are issues. Fixes before the first date are dated back from it; without any date, time is
 * seconds of the day. The first system that tells satellites fills their column, further ones have columns of their own.
 */
export function nmeaReader(sink: TableSink, { mostUndated = 50_000 }: NmeaOptions = {}): TableReader {
  let row = 0;
  let fix: Fix | null = null;
  /** Null until a date was told. */
  let day: number | null = null;
  let isUndated = false;
  let lastSecond = Number.NaN;
  const waiting: Fix[] = [];
  /** Of a VTG that came before its fix. */
  let ahead: { speed: number; course: number } | null = null;
  let countedBy: string | null = null;
  const further: string[] = [];
  /** When the last RMC and GGA were, by kind, and how far apart they usually are. */
  const paces = new Map<string, { lastS: number; stepS: number }>();
  const times = fileTimes(sink);
  const tellColumns = () =>
    sink.columns([
      ...FIX_COLUMNS,
      ...further.map((talker) => ({ name: `satellites ${talker}`, unit: 'count' as const })),
    ]);
  tellColumns();
  const issue = (code: string, text: string) => sink.issue({ code, row, text: `Line ${row}: ${text}` });

  function give(): void {
    if (!fix) return;
    const done = fix;
    fix = null;
    if (day === null && done.day === null && !isUndated) {
      waiting.push(done);
      if (waiting.length > mostUndated) goWithoutDate();
      return;
    }
    if (isUndated) done.day = null;
    else if (day === null) dateBack(done);
    tell(done);
  }

  function tell(done: Fix): void {
    const { secondOfDay: second, latitude, longitude, speed, course, altitude, satellites, hdop } = done;
    day ??= 0;
    if (done.day !== null) day = done.day;
    // Past midnight, before the next date is told.
    else if (second < lastSecond - HALF_DAY_S) day++;
    lastSecond = second;
    times.take(done.row, day * 86400 + second, [
      latitude,
      longitude,
      speed,
      course,
      altitude,
      satellites,
      hdop,
      ...further.map((talker) => done.further.get(talker) ?? Number.NaN),
    ]);
  }

  /** Dates what came before the first date, from the last to the first. */
  function dateBack(first: Fix): void {
    let [on, second] = [first.day!, first.secondOfDay];
    for (const earlier of waiting.toReversed()) {
      if (earlier.secondOfDay > second + HALF_DAY_S) on--;
      second = earlier.secondOfDay;
      earlier.day = on;
    }
    if (waiting.length > 0)
      sink.remark?.(`date first given in line ${first.row}, counted back to the first fix`);
    for (const earlier of waiting.splice(0)) tell(earlier);
  }

  function goWithoutDate(): void {
    isUndated = true;
    sink.remark?.('no date found: times are seconds of the day');
    for (const earlier of waiting.splice(0)) tell(earlier);
  }

  /** The fix that a sentence belongs to; null where another sender has told the same of it. */
  function at(kind: string, talker: string, second: number): Fix | null {
    const pace = paces.get(kind);
    paces.set(kind, { lastS: second, stepS: pace ? second - pace.lastS : Number.NaN });
    if (fix && fix.kinds.has(kind) && fix.secondOfDay === second) return null;
    const stepS = paces.get(kind)!.stepS;
    // Some receivers stamp what belongs together differently; at several fixes a second only the same stamp is the same fix.
    const isTogether =
      fix !== null &&
      !fix.kinds.has(kind) &&
      (fix.secondOfDay === second || (stepS >= 0.99 && Math.abs(fix.secondOfDay - second) <= TOGETHER_S));
    if (!isTogether) {
      give();
      const n = Number.NaN;
      fix = {
        row,
        secondOfDay: second,
        day: null,
        kinds: new Map(),
        latitude: n,
        longitude: n,
        speed: ahead?.speed ?? n,
        course: ahead?.course ?? n,
        altitude: n,
        satellites: n,
        hdop: n,
        further: new Map(),
      };
      ahead = null;
    }
    fix!.kinds.set(kind, talker);
    return fix;
  }

  const split = lineSplitter((raw) => {
    row++;
    const line = raw.trim();
    if (line === '') return;
    // What lies before the last begin of a sentence is none: bytes of another protocol, or half a sentence.
    const from = Math.max(0, line.lastIndexOf('$'));
    const match = sentence(line.slice(from));
    if (!match) return issue('not-a-sentence', `“${printable(line)}” is not an NMEA sentence.`);
    const { body, sum, length } = match;
    if (length < line.length)
      issue('other-bytes', `${line.length - length} characters before the sentence are ignored.`);
    if (sum === undefined) return issue('no-checksum', 'the checksum is missing.');
    if (sum.toUpperCase() !== nmeaChecksum(body))
      return issue('checksum', `checksum ${sum} does not match the sentence (${nmeaChecksum(body)}).`);
    const f = body.split(',');
    const [talker, kind] = [f[0]!.slice(0, -3), f[0]!.slice(-3)];
    if (kind === 'RMC') readRmc(f, talker);
    else if (kind === 'GGA') readGga(f, talker);
    else if (kind === 'VTG') readVtg(f);
    else if (kind === 'ZDA') readZda(f);
  }, 1024);

  function readRmc(f: readonly string[], talker: string): void {
    if (f[2] !== 'A') return issue('no-fix', 'the receiver has no fix (status V).');
    const second = secondOfDay(f[1]);
    const [latitude, longitude] = [degrees(f[3], f[4], 'NS', 90), degrees(f[5], f[6], 'EW', 180)];
    const date = /^(\d{2})(\d{2})(\d{2})$/.exec(f[9] ?? '');
    if (Number.isNaN(second + latitude + longitude) || !date)
      return issue('broken', 'a field of the RMC sentence is not readable.');
    const now = at('RMC', talker, second);
    if (!now) return;
    const year = Number(date[3]) + (Number(date[3]) < 80 ? 2000 : 1900);
    now.day = daysFrom1970(year, Number(date[2]), Number(date[1]));
    now.latitude = latitude;
    now.longitude = longitude;
    now.speed = numberOf(f[7]) * KNOT;
    now.course = numberOf(f[8]);
  }

  function readGga(f: readonly string[], talker: string): void {
    if (f[6] === '0' || f[6] === '') return issue('no-fix', 'the receiver has no fix (quality 0).');
    const second = secondOfDay(f[1]);
    const [latitude, longitude] = [degrees(f[2], f[3], 'NS', 90), degrees(f[4], f[5], 'EW', 180)];
    if (Number.isNaN(second + latitude + longitude))
      return issue('broken', 'a field of the GGA sentence is not readable.');
    countedBy ??= talker;
    if (talker !== countedBy) return readFurther(f, talker, second);
    const now = at('GGA', talker, second);
    if (!now) return;
    if (!now.kinds.has('RMC')) {
      now.latitude = latitude;
      now.longitude = longitude;
    }
    now.satellites = numberOf(f[7]);
    now.hdop = numberOf(f[8]);
    now.altitude = numberOf(f[9]);
  }

  /** Satellites of a second system, beside those of the first. */
  function readFurther(f: readonly string[], talker: string, second: number): void {
    if (!fix || fix.secondOfDay !== second) return;
    if (!further.includes(talker) && further.length < 8) {
      further.push(talker);
      tellColumns();
    }
    fix.further.set(talker, numberOf(f[7]));
  }

  function readVtg(f: readonly string[]): void {
    const [course, knots, kmh] = [numberOf(f[1]), numberOf(f[5]), numberOf(f[7])];
    const speed = Number.isFinite(knots) ? knots * KNOT : kmh / 3.6;
    if (!fix) ahead = { speed, course };
    else if (!fix.kinds.has('RMC')) Object.assign(fix, { speed, course });
  }

  function readZda(f: readonly string[]): void {
    const [second, d, m, y] = [secondOfDay(f[1]), numberOf(f[2]), numberOf(f[3]), numberOf(f[4])];
    if (!(second >= 0 && d >= 1 && d <= 31 && m >= 1 && m <= 12 && y >= 1980)) return;
    const now = fix && Math.abs(fix.secondOfDay - second) <= 1 ? fix : null;
    if (now && now.day === null) now.day = daysFrom1970(y, m, d);
  }

  return {
    push: split,
    finish() {
      split('\n');
      give();
      if (waiting.length > 0) goWithoutDate();
      times.finish();
    },
  };
}

/** A sentence at the end of a line. */
function sentence(text: string): { body: string; sum: string | undefined; length: number } | null {
  const match = /^[$!]([A-Z][^*]*)(?:\*([0-9A-Fa-f]{2}))?$/.exec(text);
  return match && { body: match[1]!, sum: match[2], length: text.length };
}

/** For messages: what cannot be printed stands as a dot. */
const printable = (text: string) => text.slice(0, 40).replace(/[^\x20-\x7e]/g, '·');
