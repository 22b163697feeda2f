import type { TObject } from 'typebox';
import type { ColumnFilter, Complex } from '../filters/index.ts';
import type { UnitId } from '../units/index.ts';
import { unitMismatch } from './scalarStage.ts';
import { restoreMemory, saveMemory, type Memory } from './memory.ts';
import type { FilterTraits } from './stepTraits.ts';
import {
  REASON,
  type CWriter,
  type LaneData,
  type PrepareContext,
  type StageKind,
  type StageParams,
} from './contract.ts';

/** A filter with fresh state: one good sample in, the next out. NaN means "not enough readings yet". */
export interface SampleFilter {
  /** All that it remembers. */
  readonly memory: Memory;
  next(x: number): number;
}

export interface FilterDeclaration<P extends StageParams> {
  kind: string;
  title: string;
  summary: string;
  params: TObject;
  defaults: P;
  /** False for medians and the like; true when not given. */
  linear?: boolean;
  /** Zero for filters that take the resting value away, none for those that never settle. */
  atRest?: 'passes' | 'zero' | 'none';
  /** Unit out for a unit in, or null when it cannot be taken; the same unit when not given. */
  gives?(params: P, input: UnitId): UnitId | null;
  /** What it takes, in words, for the error; needed with `gives`. */
  takes?: string;
  /** Checks the parameters and returns a filter with fresh state. */
  start(params: P, context: PrepareContext): SampleFilter | ColumnFilter;
  response?(params: P, context: PrepareContext, frequencyHz: number): Complex;
  traits?(params: P, context: PrepareContext): FilterTraits;
  zeroPhase?(params: P, context: PrepareContext, x: Float64Array): Float64Array;
  emitC?(params: P, c: CWriter, context: PrepareContext): void;
}

/**
 * Makes a stage kind from a causal filter; several columns are each filtered with a state of their own.
 * A bad sample passes through as bad, with its reason, and does not touch the filter's state.
 */
export function filterStage<P extends StageParams>(declaration: FilterDeclaration<P>): StageKind<P> {
  const unitOut = (params: P, unit: UnitId) => (declaration.gives ? declaration.gives(params, unit) : unit);
  const { linear = true, ...rest } = declaration;
  return {
    ...rest,
    role: 'filter',
    lanewise: true,
    linearFilter: linear,
    accepts: (inputs) =>
      inputs.length > 0 && inputs.every((unit) => unitOut(declaration.defaults, unit) !== null),
    signature(params, inputs) {
      const units = inputs.map((unit) => unitOut(params, unit));
      if (units.length === 0 || units.includes(null))
        throw unitMismatch(declaration.title, declaration.takes ?? 'any', inputs);
      return units as UnitId[];
    },
    prepare(params, context) {
      // One filter now, to check the parameters; one more for each further column when it comes.
      const filters = [asColumn(declaration.start(params, context))];
      return {
        run(input, output) {
          output.length = input.length;
          output.times = input.times;
          for (let k = 0; k < input.lanes.length; k++) {
            filters[k] ??= asColumn(declaration.start(params, context));
            runGood(filters[k]!, input.lanes[k]!, output.lanes[k]!, input.length);
          }
        },
        save: () => ({ lanes: filters.map((filter) => saveMemory(filter.memory)) }),
        restore(saved) {
          (saved as { lanes: Memory[] }).lanes.forEach((lane, k) => {
            filters[k] ??= asColumn(declaration.start(params, context));
            restoreMemory(filters[k]!.memory, lane);
          });
        },
      };
    },
  };
}

function asColumn(filter: SampleFilter | ColumnFilter): ColumnFilter {
  if ('block' in filter) return filter;
  return {
    memory: filter.memory,
    waits: true,
    next: filter.next,
    block(from, to, at, n) {
      for (let i = at; i < at + n; i++) to[i] = filter.next(from[i]!);
    },
  };
}

/** Runs of good samples go through the filter whole; bad ones are carried over. */
function runGood(filter: ColumnFilter, from: LaneData, to: LaneData, length: number): void {
  let i = 0;
  while (i < length) {
    const end = firstBad(from.reasons, i, length);
    if (end > i) {
      filter.block(from.values, to.values, i, end - i);
      to.reasons.fill(REASON.ok, i, end);
      if (filter.waits) markWaiting(to.values, to.reasons, i, end);
    }
    for (i = end; i < length && from.reasons[i] !== REASON.ok; i++) {
      to.values[i] = Number.NaN;
      to.reasons[i] = from.reasons[i]!;
    }
  }
}

function firstBad(reasons: Uint8Array, start: number, end: number): number {
  let i = start;
  // Four at a time as one word while all is well, which is nearly always.
  const first = reasons.byteOffset + start;
  if (first % 4 === 0) {
    const words = new Int32Array(reasons.buffer, first, (end - start) >> 2);
    let k = 0;
    while (k < words.length && words[k] === 0) k++;
    i += 4 * k;
  }
  while (i < end && reasons[i] === REASON.ok) i++;
  return i;
}

/** A filter that does not have enough readings yet gives NaN. */
function markWaiting(values: Float64Array, reasons: Uint8Array, start: number, end: number): void {
  for (let i = start; i < end; i++) {
    const v = values[i]!;
    if (v !== v) reasons[i] = REASON.waiting;
  }
}
