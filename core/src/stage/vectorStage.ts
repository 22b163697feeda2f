import type { TObject } from 'typebox';
import type { UnitId } from '../units/index.ts';
import { unitMismatch } from './scalarStage.ts';
import {
  REASON,
  type CWriter,
  type PrepareContext,
  type StageKind,
  type StageParams,
  type VectorMap,
} from './contract.ts';
import { NO_MEMORY } from './noMemory.ts';

export interface VectorStageDeclaration<P extends StageParams> {
  kind: string;
  title: string;
  summary: string;
  role?: 'conversion' | 'calibration';
  params: TObject;
  defaults: P;
  /** Units out, or null when these columns cannot be taken. */
  gives(params: P, inputs: readonly UnitId[]): UnitId[] | null;
  defaultsFor?(inputs: readonly UnitId[]): P;
  /** What it takes, in words, for the error. */
  takes: string;
  names?(params: P, inputs: readonly string[]): string[];
  /** Columns that the result depends on, from 0; all of them when not given. A bad sample in another one does no harm. */
  uses?(params: P): readonly number[];
  vector(params: P): VectorMap;
  emitC?(params: P, c: CWriter, context: PrepareContext): void;
}

/** Makes a stage kind that joins columns without memory. A bad sample in a column it uses makes the instant bad, with its reason. */
export function vectorStage<P extends StageParams>(declaration: VectorStageDeclaration<P>): StageKind<P> {
  return {
    ...declaration,
    role: declaration.role ?? 'conversion',
    lanewise: false,
    accepts: (inputs) =>
      declaration.gives(declaration.defaultsFor?.(inputs) ?? declaration.defaults, inputs) !== null,
    signature(params, inputs) {
      const units = declaration.gives(params, inputs);
      if (!units) throw unitMismatch(declaration.title, declaration.takes, inputs);
      return units;
    },
    prepare(params) {
      const { forward } = declaration.vector(params);
      const uses = declaration.uses?.(params);
      return {
        ...NO_MEMORY,
        run(input, output) {
          output.length = input.length;
          output.times = input.times;
          const given = Array<number>(input.lanes.length).fill(0);
          for (let i = 0; i < input.length; i++) {
            let reason: number = REASON.ok;
            for (let k = 0; k < given.length; k++) {
              given[k] = input.lanes[k]!.values[i]!;
              if (reason === REASON.ok && (!uses || uses.includes(k))) reason = input.lanes[k]!.reasons[i]!;
            }
            const result = reason === REASON.ok ? forward(given) : null;
            for (let k = 0; k < output.lanes.length; k++) {
              const y = result ? result[k]! : Number.NaN;
              const to = output.lanes[k]!;
              to.values[i] = y;
              to.reasons[i] =
                reason !== REASON.ok ? reason : Number.isNaN(y) ? REASON.outOfDomain : REASON.ok;
            }
          }
        },
      };
    },
  };
}
