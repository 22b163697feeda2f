import type { Block, Lane, PrepareContext, StageKind } from '../stage/contract.ts';
import type { Memory } from '../stage/memory.ts';
import type { LineSpec, StageSpec } from '../model/line.ts';

export interface CompiledStage {
  readonly spec: StageSpec;
  readonly kind: StageKind;
  readonly outputs: readonly Lane[];
  /** The rate that reaches this stage. */
  readonly context: PrepareContext;
}

export interface CompiledLine {
  readonly spec: LineSpec;
  readonly sources: readonly Lane[];
  /** Lines of other channels that stages over channels take, by channel; empty where there are none, or only the line itself is looked at. */
  readonly beside: ReadonlyMap<string, CompiledLine>;
  /** Raw columns that it is run on: its own sources, then what the others need beyond them. */
  readonly columns: readonly Lane[];
  /** The stages that are switched on, in order. */
  readonly stages: readonly CompiledStage[];
  readonly outputs: readonly Lane[];
  readonly context: PrepareContext;
  /** Rate of the readings at the end, Hz. */
  readonly outputRateHz: number;
  /**
   * Starts a run with fresh filter state.
   * @param wanted stages whose columns are looked at (0 raw, k after stage k); all when not given. Fewer is faster.
   */
  start(wanted?: readonly number[]): LineRun;
}

/** What the stages of a line remember, in their order; null for those without memory. */
export interface LineMemory {
  readonly stages: readonly (Memory | null)[];
}

export interface LineRun {
  /**
   * Runs samples through the whole line.
   * @param block raw lanes, one for each source of the line, of any length
   * @param visit receives each piece of at most 4096: index 0 is the raw block, index k the output of stage k.
   *   The blocks are reused: copy what must be kept. Stages that were not asked for say how many there are and which are bad;
   *   their values may be of no use.
   */
  process(block: Block, visit: (stages: readonly Block[]) => void): void;
  /** What every stage remembers, as plain data. */
  save(): LineMemory;
  /** Goes on from there as if it had never stopped. @throws {RangeError} when it is another line's */
  restore(saved: LineMemory): void;
}
