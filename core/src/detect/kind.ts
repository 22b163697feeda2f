import type { TObject } from 'typebox';
import type { ParamValue } from '../model/line.ts';
import type { CWriter } from '../stage/contract.ts';
import type { Memory } from '../stage/memory.ts';
import type { UnitId } from '../units/index.ts';

/** What a detector found. */
export interface DetectedEvent {
  /** "start" tells that a stretch has begun; "event" is a moment, or a stretch that has ended. */
  readonly what: 'start' | 'event';
  readonly timeS: number;
  /** End of a stretch; the same as `timeS` for a moment. */
  readonly endS: number;
  /** The reading to draw it at. */
  readonly at: number;
  /** Its size, in the reading's unit: height of a peak or beat, extreme of a stretch; NaN where it has none. */
  readonly value: number;
  /** Area between reading and zero, the reading's unit times second; NaN where it has none. */
  readonly area: number;
  /** Standard uncertainty of its time, s. */
  readonly uTimeS: number;
  readonly counted: boolean;
  /** Why it does not count; empty when it does. */
  readonly why: string;
}

export interface DetectContext {
  /** Readings a second. */
  readonly sampleRateHz: number;
  /**
   * Standard deviation of single readings as they have been so far, or near a reading, where more is known to be there; NaN
   * while it is not known.
   */
  noise(near?: number): number;
}

/** A detector at work: readings in, in order; those that are no numbers are not given to it. */
export interface DetectorRun {
  /** All that it remembers, as plain data. */
  readonly memory: Memory;
  push(timeS: number, x: number): void;
  /**
   * Place of the first reading, of those from one place to before another, of which more may come than of the one before it:
   * until there, to be given the last of them alone comes to the same as all of them. Absent where each has a say.
   */
  quietUntil?(values: Float64Array, from: number, to: number): number;
}

/** Readings to find parameters in. */
export interface Trace {
  readonly times: ArrayLike<number>;
  /** NaN where there is none. */
  readonly values: ArrayLike<number>;
  readonly unit: UnitId;
  /** Ends of the rate of events that the brief asks for, Hz; NaN where it asks for none. */
  readonly slowestHz: number;
  readonly fastestHz: number;
}

export type DetectorParams = Record<string, ParamValue>;

/** Parameters found in data with the reason for each, or why none can be found. */
export type Finding =
  | { readonly params: DetectorParams; readonly deadTimeS: number; readonly why: string }
  | { readonly problem: string };

/** The contract of every detector kind: one file in core/src/detect/kinds declares one. */
export interface DetectorKind<P extends DetectorParams = DetectorParams> {
  readonly kind: string;
  readonly title: string;
  readonly summary: string;
  /** "reading": levels of a quantity; "direction": an angle round the circle; "signal": a raw column; "hand": a button of the bench. */
  readonly looksAt: 'reading' | 'direction' | 'signal' | 'hand';
  readonly params: TObject;
  readonly defaults: P;
  /** Parameters that are readings: they carry the reading's unit. */
  readonly levels: readonly string[];
  /** Checks what the schema cannot. @throws {RangeError} when it cannot work with these */
  start(params: P, context: DetectContext, emit: (event: DetectedEvent) => void): DetectorRun;
  find?(trace: Trace): Finding;
  /**
   * Statements of C for one reading: `v` (LN_WIDE) at time `t` (LN_WIDE, counted in calls). Sets `found` to 1 when something
   * counts, with `*when` and, where it has one, `*size`. A stretch sets `began` when it begins and `ended` beside `found`.
   * Absent where a gadget could not run it.
   */
  emitC?(params: P, c: CWriter): void;
  /** Readings at which what counts begins and ends, where one that is off puts them at other moments. */
  edges?(params: P): readonly number[];
  /** Levels to draw on the plot. */
  drawn?(params: P): readonly number[];
}

/** A moment that counts. */
export const moment = (timeS: number, at: number, value: number, uTimeS: number): DetectedEvent => ({
  what: 'event',
  timeS,
  endS: timeS,
  at,
  value,
  area: Number.NaN,
  uTimeS,
  counted: true,
  why: '',
});

/** A moment that does not count, and why. */
export const refused = (timeS: number, at: number, why: string): DetectedEvent => ({
  ...moment(timeS, at, Number.NaN, Number.NaN),
  counted: false,
  why,
});

/** Begin of a stretch. */
export const begun = (timeS: number, at: number, uTimeS: number): DetectedEvent => ({
  ...moment(timeS, at, Number.NaN, uTimeS),
  what: 'start',
});
