import type { TObject } from 'typebox';
import type { UnitId } from '../units/index.ts';
import { unitMismatch } from './scalarStage.ts';
import { REASON, type CWriter, type PrepareContext, type StageKind, type StageParams } from './stage.ts';

export interface FilterDeclaration<P extends StageParams> {
  kind: string;
  title: string;
  summary: string;
  params: TObject;
  defaults: P;
  /** Checks the parameters and returns a function with fresh state that takes one good sample and gives the next. */
  start(params: P, context: PrepareContext): (x: number) => number;
  emitC?(params: P, c: CWriter, context: PrepareContext): void;
}

/**
 * Makes a stage kind from a causal linear filter on one lane that keeps its unit and has unit gain at rest.
 * A bad sample passes through as bad, with its reason, and does not touch the filter's state.
 */
export function filterStage<P extends StageParams>(declaration: FilterDeclaration<P>): StageKind<P> {
  const accepts = (inputs: readonly UnitId[]) => inputs.length === 1;
  return {
    ...declaration,
    role: 'filter',
    linearFilter: true,
    accepts,
    signature(_params, inputs) {
      if (!accepts(inputs)) throw unitMismatch(declaration.title, 'any', inputs);
      return [inputs[0]!];
    },
    prepare(params, context) {
      const next = declaration.start(params, context);
      return {
        run(input, output) {
          const from = input.lanes[0]!;
          const to = output.lanes[0]!;
          output.length = input.length;
          output.times = input.times;
          for (let i = 0; i < input.length; i++) {
            const reason = from.reasons[i]!;
            to.reasons[i] = reason;
            to.values[i] = reason === REASON.ok ? next(from.values[i]!) : Number.NaN;
          }
        },
      };
    },
  };
}
