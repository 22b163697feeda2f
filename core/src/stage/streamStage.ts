import type { TObject } from 'typebox';
import type { UnitId } from '../units/index.ts';
import { roomFor } from './roomFor.ts';
import { unitMismatch } from './scalarStage.ts';
import { restoreMemory, saveMemory, type Memory } from './memory.ts';
import type { FilterTraits } from './stepTraits.ts';
import {
  REASON,
  type Block,
  type CWriter,
  type PrepareContext,
  type StageKind,
  type StageParams,
} from './contract.ts';

/**
 * Writes one instant out: the columns, or NaN in all of them with a reason. At most one for each instant taken in.
 * @param reason why columns are NaN: one for all of them, or one for each
 */
export type Emit = (
  timeS: number,
  outputs: readonly number[] | null,
  reason?: number | readonly number[],
) => void;

/**
 * Takes one instant: its time, the columns (NaN where bad), the first reason that makes it bad, 0 when good, and the reason
 * of each column. An instant earlier than the one before is bad in all columns: what is measured over it would be wrong, so
 * the stage begins anew from there.
 */
export type StreamStep = (
  timeS: number,
  inputs: readonly number[],
  reason: number,
  emit: Emit,
  reasons: readonly number[],
) => void;

/** A stream stage that has begun: what it remembers, and what it does with the next instant. */
export interface StreamRun {
  readonly memory: Memory;
  readonly step: StreamStep;
}

export interface StreamStageDeclaration<P extends StageParams> {
  kind: string;
  title: string;
  summary: string;
  role: 'conversion' | 'filter';
  params: TObject;
  defaults: P;
  gives(params: P, inputs: readonly UnitId[]): UnitId[] | null;
  takes: string;
  defaultsFor?(inputs: readonly UnitId[]): P;
  names?(params: P, inputs: readonly string[]): string[];
  rateOut?(params: P, sampleRateHz: number): number;
  start(params: P, context: PrepareContext, inputs: number): StreamRun;
  traits?(params: P, context: PrepareContext): FilterTraits;
  addsUp?: boolean;
  comes?(params: P): string;
  meansOfSteps?: boolean;
  emitC?(params: P, c: CWriter, context: PrepareContext): void;
}

/** Makes a stage kind that looks at times, joins columns over time, or gives fewer samples than it takes. */
export function streamStage<P extends StageParams>(declaration: StreamStageDeclaration<P>): StageKind<P> {
  return {
    ...declaration,
    lanewise: false,
    accepts: (inputs) =>
      declaration.gives(declaration.defaultsFor?.(inputs) ?? declaration.defaults, inputs) !== null,
    signature(params, inputs) {
      const units = declaration.gives(params, inputs);
      if (!units) throw unitMismatch(declaration.title, declaration.takes, inputs);
      return units;
    },
    prepare(params, context) {
      let begun: StreamRun | null = null;
      // Checks the parameters now; the run itself starts with the number of columns that come.
      declaration.start(params, context, 1);
      let last = Number.NEGATIVE_INFINITY;
      let given: number[] = [];
      let why: number[] = [];
      const begin = (inputs: number) => {
        given = Array<number>(inputs).fill(0);
        why = Array<number>(inputs).fill(0);
        return declaration.start(params, context, inputs);
      };
      let times = new Float64Array(0);
      return {
        run(input, output) {
          begun ??= begin(input.lanes.length);
          const { step } = begun;
          if (times.length < input.length) times = new Float64Array(roomFor(input.length));
          const emit = emitter(output, times);
          for (let i = 0; i < input.length; i++) {
            const timeS = input.times[i]!;
            const turned = timeS < last ? REASON.backwards : REASON.ok;
            let reason: number = turned;
            last = timeS;
            for (let k = 0; k < given.length; k++) {
              const own = input.lanes[k]!.reasons[i]!;
              given[k] = own === REASON.ok && turned === REASON.ok ? input.lanes[k]!.values[i]! : Number.NaN;
              why[k] = turned === REASON.ok ? own : turned;
              if (reason === REASON.ok) reason = own;
            }
            step(timeS, given, reason, emit, why);
          }
        },
        save: () => ({ last, inputs: given.length, own: begun && saveMemory(begun.memory) }),
        restore(saved) {
          const from = saved as { last: number; inputs: number; own: Memory | null };
          last = from.last;
          begun = from.own && begin(from.inputs);
          if (begun && from.own) restoreMemory(begun.memory, from.own);
        },
      };
    },
  };
}

function emitter(output: Block, times: Float64Array): Emit {
  output.length = 0;
  output.times = times;
  return (timeS, outputs, reason = REASON.outOfDomain) => {
    const at = output.length++;
    times[at] = timeS;
    for (let k = 0; k < output.lanes.length; k++) {
      const y = outputs ? outputs[k]! : Number.NaN;
      const lane = output.lanes[k]!;
      lane.values[at] = y;
      lane.reasons[at] = y === y ? REASON.ok : reasonOf(reason, k);
    }
  };
}

/** Why a column is NaN; where nothing was given for it, the stage itself has no answer. */
function reasonOf(reason: number | readonly number[], k: number): number {
  const own = typeof reason === 'number' ? reason : reason[k]!;
  return own === REASON.ok ? REASON.outOfDomain : own;
}
