import ICAL from 'ical.js';
import { isoTime } from '../units/dates.ts';

export interface DueDate {
  /** Stays the same when the date moves, so that a calendar moves the entry. */
  readonly uid: string;
  /** Seconds since 1970; the day counts. */
  readonly dueS: number;
  readonly summary: string;
  readonly description: string;
}

/** Control characters would end a line of the file; a line end within a text is escaped by the library. */
const plain = (text: string) => text.replace(/\r\n?/g, '\n').replace(/[^\P{Cc}\n]/gu, ' ');

/** An iCalendar file (RFC 5545) with one all-day entry a due date and a reminder a week before. @param nowS when it is written */
export function writeCalendar(dates: readonly DueDate[], nowS: number): string {
  const calendar = new ICAL.Component(['vcalendar', [], []]);
  calendar.updatePropertyWithValue('prodid', '-//Lucky Needle//Calibration due dates//EN');
  calendar.updatePropertyWithValue('version', '2.0');
  for (const { uid, dueS, summary, description } of dates) {
    const event = new ICAL.Component('vevent');
    event.updatePropertyWithValue('uid', uid);
    event.updatePropertyWithValue(
      'dtstamp',
      ICAL.Time.fromDateTimeString(isoTime(nowS).replace(/\.\d+Z$/, 'Z')),
    );
    event.updatePropertyWithValue('dtstart', ICAL.Time.fromDateString(isoTime(dueS).slice(0, 10)));
    event.updatePropertyWithValue('summary', plain(summary));
    event.updatePropertyWithValue('description', plain(description));
    const alarm = new ICAL.Component('valarm');
    alarm.updatePropertyWithValue('action', 'DISPLAY');
    alarm.updatePropertyWithValue('description', plain(summary));
    alarm.updatePropertyWithValue('trigger', ICAL.Duration.fromString('-P7D'));
    event.addSubcomponent(alarm);
    calendar.addSubcomponent(event);
  }
  return `${calendar.toString()}\r\n`;
}
