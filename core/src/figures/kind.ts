import type { TObject } from 'typebox';
import type { WatchedEvent } from '../detect/index.ts';
import type { ParamValue } from '../model/line.ts';
import type { Memory } from '../stage/memory.ts';
import type { UnitId } from '../units/index.ts';
import type { Budget } from './budget.ts';

export interface FigureContext {
  readonly unit: UnitId;
  /** Units of the other channels that it needs, in order. */
  readonly otherUnits: readonly UnitId[];
  readonly sampleRateHz: number;
  /** Whether the reading is an angle round the circle. */
  readonly isDirection: boolean;
  /** Whether each reading is the mean over all the time since the one before, as of power over whole turns. */
  readonly meansOfSteps?: boolean;
  readonly budget: Budget;
  /** The same of the other channels that it needs, in order. */
  readonly otherBudgets: readonly Budget[];
  /** Standard uncertainty of the gadget's clock as a share; NaN when not known. */
  readonly clockShare: number;
  /** Readings at which what plays a part begins and ends; none where it looks at something else. */
  edges(role: string): readonly number[];
}

export interface FigureNow {
  /** NaN while there is none; `reason` then says why. */
  readonly value: number;
  /** Standard uncertainty, in the figure's unit; NaN when not known. */
  readonly u: number;
  /** Moment that it belongs to, s; NaN for one of all the time. */
  readonly atS: number;
  readonly reason: string;
  /** The arithmetic, in a maker's words. */
  readonly how: string;
  /** It stands on less than it is meant to, such as a window that is not full yet: what it is worth gets better by itself. */
  readonly isSettling?: boolean;
}

/** A figure at work: readings and events in, in order of time. */
export interface FigureRun {
  /** All that it remembers, as plain data. */
  readonly memory: Memory;
  /** @param others newest readings of the other channels; NaN where there is none */
  reading?(timeS: number, x: number, others: readonly number[]): void;
  /** An event that counts, by the part that its watch plays. */
  event?(role: string, event: WatchedEvent): void;
  now(): FigureNow;
  /** Begins the next trial, where that is measured from where the last one left off; without it all is begun anew. */
  next?(): void;
}

export type FigureParams = Record<string, ParamValue>;

/** A part that a watch plays for a figure. */
export interface FigureRole {
  readonly title: string;
  /** "moment": every event; "begin" and "end" of stretches as well; "stretch": only what has a begin and an end. */
  readonly wants: 'moment' | 'begin' | 'end' | 'stretch';
}

/** The contract of every figure kind: one file in core/src/figures/kinds declares one. */
export interface FigureKind<P extends FigureParams = FigureParams> {
  readonly kind: string;
  readonly title: string;
  readonly summary: string;
  readonly params: TObject;
  readonly defaults: P;
  readonly roles: Readonly<Record<string, FigureRole>>;
  /** Other channels that it needs, by what they give; "several" for any number of channels alike. */
  readonly others: readonly string[] | 'several';
  /** Parameters that are readings: they carry the reading's unit. */
  readonly levels: readonly string[];
  /**
   * Of what is 0 while nothing has happened, and what it is worth at 0 says nothing: whether it "grows", and its uncertainty
   * with it, or whether it shows what it is worth as soon as it "happens". Left out of all others.
   */
  readonly fromNothing?: 'grows' | 'happens';
  /** Parameters to start with for these units, where the plain defaults do not suit them. */
  defaultsFor?(input: UnitId, others: readonly UnitId[]): P;
  /** Unit for the units in; null when it cannot be made of them. */
  unit(params: P, input: UnitId, others: readonly UnitId[]): UnitId | null;
  /** Checks what the schema cannot. @throws {RangeError} when it cannot work with these */
  start(params: P, context: FigureContext): FigureRun;
}

/** No figure yet, and why. */
export const none = (reason: string): FigureNow => ({
  value: Number.NaN,
  u: Number.NaN,
  atS: Number.NaN,
  reason,
  how: '',
});

export const figure = (value: number, u: number, atS: number, how: string): FigureNow => ({
  value,
  u,
  atS,
  reason: '',
  how,
});
