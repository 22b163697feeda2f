import type { AlarmLevel } from '../model/alarm.ts';

/** One channel as a face shows it: all texts are made, since the display knows no numbers. */
export interface FaceReading {
  readonly name: string;
  /** As it deserves to be printed; null while there is none, and `state` says why. */
  readonly text: string | null;
  /** Whole, as the fonts can write it. */
  readonly unit: string;
  /** "±0.7", or empty where it is not known. */
  readonly worth: string;
  /** "warming up", "stopped", "no link": in the place of a number. */
  readonly state: string;
  /** What there is to say of the state where there is room, such as how long it still lasts. */
  readonly detail: string;
  /** Where it lies between the ends of what is asked, 0 to 1; null without a brief or a number. */
  readonly share: number | null;
  /** Ends of the brief, printed; empty without one. */
  readonly ends: readonly [string, string];
  /** Course, for a direction; null for all else. */
  readonly courseDeg: number | null;
  /** Newest readings, oldest first. */
  readonly history: readonly number[];
}

/** The gravest alarm; null where the gadget has none. */
export type FaceAlarm = { readonly level: AlarmLevel; readonly name: string } | null;

/** The word that stands for an alarm; empty while all is quiet, or there is none. */
export const alarmWord = (alarm: FaceAlarm): string =>
  alarm === null ? '' : { quiet: '', unknown: '?', caution: 'CAUTION', limit: 'LIMIT' }[alarm.level];

/** A name, or where it is longer than there is room what stands behind its first comma or colon: "Probe 1, door side". */
export function shortName(name: string, room: number): string {
  if ([...name].length <= room) return name;
  const at = /[,:] /.exec(name)?.index ?? -2;
  return name.slice(at + 2);
}
