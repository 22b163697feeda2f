import type { TObject } from 'typebox';
import { UNITS, type UnitId } from '../units/index.ts';
import {
  REASON,
  UnitMismatch,
  type CWriter,
  type PrepareContext,
  type ScalarMap,
  type StageKind,
  type StageParams,
} from './stage.ts';

export interface ScalarStageDeclaration<P extends StageParams> {
  kind: string;
  title: string;
  summary: string;
  role?: 'conversion' | 'calibration';
  params: TObject;
  defaults: P;
  /** Units it can take; 'any' keeps the unit it is given. */
  takes: readonly UnitId[] | 'any';
  gives(params: P, input: UnitId): UnitId;
  scalar(params: P): ScalarMap;
  emitC?(params: P, c: CWriter, context: PrepareContext): void;
}

/** Makes a stage kind from a function of one number: one lane in, one lane out, no memory. */
export function scalarStage<P extends StageParams>(declaration: ScalarStageDeclaration<P>): StageKind<P> {
  const accepts = (inputs: readonly UnitId[]) =>
    inputs.length === 1 && (declaration.takes === 'any' || declaration.takes.includes(inputs[0]!));
  return {
    ...declaration,
    role: declaration.role ?? 'conversion',
    accepts,
    signature(params, inputs) {
      if (!accepts(inputs)) throw unitMismatch(declaration.title, declaration.takes, inputs);
      return [declaration.gives(params, inputs[0]!)];
    },
    prepare(params) {
      const map = declaration.scalar(params);
      const { forward } = map;
      const reasonAt = map.reasonAt ?? (() => REASON.outOfDomain);
      return {
        run(input, output) {
          const from = input.lanes[0]!;
          const to = output.lanes[0]!;
          output.length = input.length;
          output.times = input.times;
          for (let i = 0; i < input.length; i++) {
            const reason = from.reasons[i]!;
            const x = from.values[i]!;
            const y = reason === REASON.ok ? forward(x) : Number.NaN;
            to.values[i] = y;
            to.reasons[i] = reason !== REASON.ok ? reason : Number.isNaN(y) ? reasonAt(x) : REASON.ok;
          }
        },
      };
    },
  };
}

/** The error every stage raises for lanes it cannot take. */
export function unitMismatch(
  title: string,
  takes: readonly UnitId[] | 'any',
  inputs: readonly UnitId[],
): UnitMismatch {
  const name = (id: UnitId) => UNITS[id].name;
  const wanted = takes === 'any' ? 'one column' : takes.map(name).join(' or ');
  const given = inputs.length === 0 ? 'nothing' : inputs.map(name).join(', ');
  return new UnitMismatch(
    `${title} takes ${wanted} but is given ${given}. Put a stage that gives ${wanted} before it, or move it.`,
  );
}
