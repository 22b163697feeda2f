import type { TObject } from 'typebox';
import type { ParamValue, StageSpec } from '../model/line.ts';
import type { UnitId } from '../units/index.ts';

/** Why a sample is not a number. Kept beside the samples, one byte each; 0 means the sample is good. */
export const REASONS = [
  'ok',
  'missing',
  'below converter range',
  'above converter range',
  'outside the stage’s domain',
] as const;
export const REASON = { ok: 0, missing: 1, saturatedLow: 2, saturatedHigh: 3, outOfDomain: 4 } as const;

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
}

/** A prepared stage with its state. Blocks may be cut anywhere: the output is bit-identical. */
export interface Runner {
  run(input: Block, output: Block): void;
}

/** A stage without memory as a function of one number. Outside its domain `forward` gives NaN. */
export interface ScalarMap {
  forward(x: number): number;
  inverse?(y: number): number;
  derivative?(x: number): number;
  /** Why `forward(x)` is NaN; out of domain when not given. */
  reasonAt?(x: number): number;
}

/** What a stage writes its C with. The running value is the variable `x` of type LN_REAL. */
export interface CWriter {
  /** Declares a named constant and returns its name in C. */
  constant(name: string, value: number, note: string): string;
  /** Declares a field of the line's state, set to `initial` at start, and returns how to reach it. */
  state(name: string, initial: string, count?: number): string;
  /** Adds a statement. */
  line(statement: string): void;
}

export type StageParams = Record<string, ParamValue>;

/** The contract of every stage kind: one file in core/src/stages declares one. */
export interface StageKind<P extends StageParams = StageParams> {
  readonly kind: string;
  readonly title: string;
  readonly summary: string;
  readonly role: 'conversion' | 'calibration' | 'filter';
  readonly params: TObject;
  readonly defaults: P;
  /**
   * Units out for the units in.
   * @throws {UnitMismatch} when it cannot take them
   */
  signature(params: P, inputs: readonly UnitId[]): UnitId[];
  /** Whether the stage could follow lanes of these units. */
  accepts(inputs: readonly UnitId[]): boolean;
  /** Checks once and returns a runner with fresh state. @throws {RangeError} when a parameter cannot work here */
  prepare(params: P, context: PrepareContext): Runner;
  /** Present on stages without memory. */
  scalar?(params: P): ScalarMap;
  /** Present on linear filters: unit gain at rest is assumed by the uncertainty arithmetic. */
  readonly linearFilter?: boolean;
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
