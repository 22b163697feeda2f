// The core has no clock, and so no Date either: calendar arithmetic on seconds since 1970, UTC.

/** Seconds since 1970 of an ISO date; a time without a zone is taken as UTC. */
export function isoSeconds(text: string): number {
  const match =
    /^(\d{4}-\d{2}-\d{2})(?:[T ](\d{2}:\d{2})(?::(\d{2}(?:\.\d+)?))?)? ?(Z|[+-]\d{2}:?\d{2})?$/.exec(
      text.trim(),
    );
  if (!match) return Number.NaN;
  const [, day, clock = '00:00', seconds = '0', zone = 'Z'] = match;
  const [y, m, d] = day!.split('-').map(Number);
  const [hh, mm] = clock.split(':').map(Number);
  if (m! < 1 || m! > 12 || d! < 1 || d! > daysOf(y!, m!) || hh! > 23 || mm! > 59) return Number.NaN;
  // A leap second is a second; the ends of the earth are 14 hours from Greenwich.
  if (Number(seconds) >= 61) return Number.NaN;
  if (zone !== 'Z' && (Number(zone.slice(1, 3)) > 14 || Number(zone.slice(-2)) > 59)) return Number.NaN;
  const offset =
    zone === 'Z'
      ? 0
      : (zone.startsWith('-') ? -1 : 1) * (Number(zone.slice(1, 3)) * 60 + Number(zone.slice(-2)));
  return daysFrom1970(y!, m!, d!) * 86400 + hh! * 3600 + (mm! - offset) * 60 + Number(seconds);
}

/** Days of a month, by the calendar. */
const daysOf = (year: number, month: number) =>
  daysFrom1970(month === 12 ? year + 1 : year, (month % 12) + 1, 1) - daysFrom1970(year, month, 1);

/** Days since 1970-01-01 in the proleptic Gregorian calendar (Howard Hinnant, "chrono-compatible date algorithms"). */
export function daysFrom1970(year: number, month: number, day: number): number {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  return (
    era * 146097 +
    yearOfEra * 365 +
    Math.floor(yearOfEra / 4) -
    Math.floor(yearOfEra / 100) +
    dayOfYear -
    719468
  );
}

/** ISO date and time in UTC with milliseconds. @param timeS seconds since 1970 */
export function isoTime(timeS: number): string {
  const ms = Math.round(timeS * 1000);
  const days = Math.floor(ms / 86400000);
  const rest = ms - days * 86400000;
  const [y, m, d] = dateOf(days);
  const p = (v: number, n = 2) => String(v).padStart(n, '0');
  return `${p(y, 4)}-${p(m)}-${p(d)}T${p(Math.floor(rest / 3600000))}:${p(Math.floor(rest / 60000) % 60)}:${p(Math.floor(rest / 1000) % 60)}.${p(rest % 1000, 3)}Z`;
}

/** Year, month, day of a day since 1970-01-01 (Howard Hinnant, as above). */
export function dateOf(days: number): [number, number, number] {
  const z = days + 719468;
  const era = Math.floor(z / 146097);
  const doe = z - era * 146097;
  const yoe = Math.floor(
    (doe - Math.floor(doe / 1460) + Math.floor(doe / 36524) - Math.floor(doe / 146096)) / 365,
  );
  const doy = doe - (365 * yoe + Math.floor(yoe / 4) - Math.floor(yoe / 100));
  const mp = Math.floor((5 * doy + 2) / 153);
  const month = mp < 10 ? mp + 3 : mp - 9;
  return [yoe + era * 400 + (month <= 2 ? 1 : 0), month, doy - Math.floor((153 * mp + 2) / 5) + 1];
}
