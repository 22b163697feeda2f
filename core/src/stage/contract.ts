import type { TObject } from 'typebox';
import type { FilterTraits } from './stepTraits.ts';
import type { Complex } from '../filters/index.ts';
import type { Memory } from './memory.ts';
import type { ParamValue, StageSpec } from '../model/line.ts';
import type { UnitId } from '../units/index.ts';

/** Why a sample is not a number. Kept beside the samples, one byte each; 0 means the sample is good. */
export const REASONS = [
  'ok',
  'missing',
  'below ADC range',
  'above ADC range',
  'out of range',
  'waiting for enough readings',
  'warming up',
  'time stamp went backwards',
] as const;
export const REASON = {
  ok: 0,
  missing: 1,
  saturatedLow: 2,
  saturatedHigh: 3,
  outOfDomain: 4,
  waiting: 5,
  warmingUp: 6,
  backwards: 7,
} as const;

/** One column of samples between two stages. */
export interface LaneData {
  readonly values: Float64Array;
  readonly reasons: Uint8Array;
}

/** Samples of several columns over the same instants. `length` samples count; the arrays may be longer. */
export interface Block {
  length: number;
  times: Float64Array;
  lanes: LaneData[];
}

export interface Lane {
  readonly name: string;
  readonly unit: UnitId;
}

export interface PrepareContext {
  /** Nominal rate of the samples that reach the stage, Hz. */
  readonly sampleRateHz: number;
  /** Slowest rate that is still told from standing still, Hz, from the brief; not given where none is asked for. */
  readonly slowestHz?: number | undefined;
}

/**
 * A prepared stage with its state. Blocks may be cut anywhere: the output is bit-identical. It sets the output's length
 * and times; a stage that gives fewer samples than it takes brings its own array of times.
 */
export interface Runner {
  run(input: Block, output: Block): void;
  /** A copy of what it remembers; null when it has no memory. */
  save(): Memory | null;
  /** Goes on from there: what follows is bit-identical to never having stopped. */
  restore(saved: Memory | null): void;
}

/** A stage without memory as a function of one number. Outside its domain `forward` gives NaN. */
export interface ScalarMap {
  forward(x: number): number;
  inverse?(y: number): number;
  derivative?(x: number): number;
  /** Why `forward(x)` is NaN; out of domain when not given. */
  reasonAt?(x: number): number;
}

/** A stage without memory as a function of several numbers. NaN when it has no answer. */
export interface VectorMap {
  forward(inputs: readonly number[]): number[];
  inverse?(outputs: readonly number[]): number[];
}

/**
 * What a stage writes its C with. A stage that treats each column by itself finds the running value in `x` (LN_REAL) and
 * leaves it there, or returns LN_BAD; a stage of several columns finds and leaves them in x[0], x[1], ... In a stage without
 * memory no value that it finds is NAN: the caller has seen to that.
 */
export interface CWriter {
  /** Columns that reach the stage. */
  readonly inputs: number;
  /** Calls a second of the whole line, Hz. Behind a stage that thins readings, those between come as NAN. */
  readonly callsHz: number;
  /** Declares a named constant and returns its name in C. Wide ones keep double precision on every board that has it. */
  constant(name: string, value: number, note: string, wide?: boolean): string;
  /** Declares a constant array and returns its name. */
  table(name: string, values: ArrayLike<number>): string;
  /** Declares a field of the line's state (LN_WIDE; an array of LN_REAL with `count`), set to `initial` at start. */
  state(name: string, initial: string, count?: number): string;
  /** Adds a statement. */
  line(statement: string): void;
}

export type StageParams = Record<string, ParamValue>;

/** What a stage over channels makes of its own reading and what others read at that moment. */
export interface OverChannels<P extends StageParams = StageParams> {
  /** Ids of the others, in the order in which `combine` takes what they read. */
  channels(params: P): readonly string[];
  /** @throws {UnitMismatch} when it cannot take what they read */
  check(params: P, own: UnitId, others: readonly UnitId[]): void;
  /** NaN where it has no answer. @throws {RangeError} when the parameters do not fit together */
  combine(params: P): (own: number, others: readonly number[]) => number;
  /** Finds its own reading in `x` and the others' in the names that are given, none of them NAN; leaves the result in `x`. */
  emitC(params: P, c: CWriter, others: readonly string[]): void;
}

/** The contract of every stage kind: one file in core/src/stages declares one. */
export interface StageKind<P extends StageParams = StageParams> {
  readonly kind: string;
  readonly title: string;
  readonly summary: string;
  readonly role: 'conversion' | 'calibration' | 'filter';
  readonly params: TObject;
  readonly defaults: P;
  /** True when each column is treated by itself, in the same way. */
  readonly lanewise: boolean;
  /**
   * Units out for the units in.
   * @throws {UnitMismatch} when it cannot take them
   */
  signature(params: P, inputs: readonly UnitId[]): UnitId[];
  /** Names of the columns out, where they are not those of the columns in. */
  names?(params: P, inputs: readonly string[]): string[];
  /** Parameters to start with after these units, where the plain defaults may not suit them. */
  defaultsFor?(inputs: readonly UnitId[]): P;
  /** Whether the stage could follow lanes of these units. */
  accepts(inputs: readonly UnitId[]): boolean;
  /** Rate of the samples out, Hz, where it differs from the rate in. */
  rateOut?(params: P, sampleRateHz: number): number;
  /** Checks once and returns a runner with fresh state. @throws {RangeError} when a parameter cannot work here */
  prepare(params: P, context: PrepareContext): Runner;
  /** Present on stages without memory that treat each column by itself. */
  scalar?(params: P): ScalarMap;
  /** Columns that a stage of several depends on, from 0; all of them when not given. */
  uses?(params: P): readonly number[];
  /** Present on stages without memory that join columns. */
  vector?(params: P): VectorMap;
  /** The integer codes a converter can give, lowest and highest; lets a chain of scalar stages become one table. */
  codes?(params: P): readonly [number, number];
  /** Present and true on linear filters. */
  readonly linearFilter?: boolean;
  /** Takes counts that the part or the board adds up by itself: nothing is lost between readings, however seldom they come. */
  readonly addsUp?: boolean;
  /** What a filter gives for a value held still: the value (the usual case), zero, or no settled value at all. */
  readonly atRest?: 'passes' | 'zero' | 'none';
  /** Complex gain of a linear filter, where there is a formula. */
  response?(params: P, context: PrepareContext, frequencyHz: number): Complex;
  /** Delay, settling and the like where they cannot be measured by running the filter. */
  traits?(params: P, context: PrepareContext): FilterTraits;
  /** The same smoothing without delay, for recordings: a whole good column in, one out. */
  zeroPhase?(params: P, context: PrepareContext, x: Float64Array): Float64Array;
  /** Present on stages that take what other channels read beside their own column. */
  readonly over?: OverChannels<P>;
  /** When a reading comes, in words, where that is not with every sample: "with each beat". */
  comes?(params: P): string;
  /** Each reading is the mean over all the time since the one before. */
  readonly meansOfSteps?: boolean;
  emitC?(params: P, c: CWriter, context: PrepareContext): void;
}

/** Units that do not fit together, said with the stage, what it takes and what it was given. */
export class UnitMismatch extends RangeError {
  override readonly name = 'UnitMismatch';
}

/** A line that cannot be compiled; names the stage at fault. */
export class LineError extends RangeError {
  override readonly name = 'LineError';
  readonly stage: StageSpec | null;
  constructor(stage: StageSpec | null, message: string) {
    super(message);
    this.stage = stage;
  }
}
