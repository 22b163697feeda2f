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
} from './contract.ts';
import { NO_MEMORY } from './noMemory.ts';

export interface ScalarStageDeclaration<P extends StageParams> {
  kind: string;
  title: string;
  summary: string;
  role?: 'conversion' | 'calibration';
  params: TObject;
  defaults: P;
  /** Units it can take; 'any' keeps the unit it is given. */
  takes: readonly UnitId[] | 'any';
  /** @throws {UnitMismatch} when these parameters cannot take that unit */
  gives(params: P, input: UnitId): UnitId;
  defaultsFor?(inputs: readonly UnitId[]): P;
  scalar(params: P): ScalarMap;
  codes?(params: P): readonly [number, number];
  emitC?(params: P, c: CWriter, context: PrepareContext): void;
}

/** Makes a stage kind from a function of one number without memory; several columns are each treated so. */
export function scalarStage<P extends StageParams>(declaration: ScalarStageDeclaration<P>): StageKind<P> {
  const taken = (inputs: readonly UnitId[]) =>
    inputs.length > 0 &&
    (declaration.takes === 'any' || inputs.every((unit) => declaration.takes.includes(unit as never)));
  // Parameters drawn from the first column would not suit another unit beside it.
  const accepts = (inputs: readonly UnitId[]) =>
    taken(inputs) && (!declaration.defaultsFor || inputs.every((unit) => unit === inputs[0]));
  return {
    ...declaration,
    role: declaration.role ?? 'conversion',
    lanewise: true,
    accepts,
    signature(params, inputs) {
      if (!taken(inputs)) throw unitMismatch(declaration.title, declaration.takes, inputs);
      return inputs.map((unit) => declaration.gives(params, unit));
    },
    prepare(params) {
      const map = declaration.scalar(params);
      const { forward } = map;
      const reasonAt = map.reasonAt ?? (() => REASON.outOfDomain);
      return {
        ...NO_MEMORY,
        run(input, output) {
          output.length = input.length;
          output.times = input.times;
          for (let k = 0; k < input.lanes.length; k++) {
            const from = input.lanes[k]!;
            const to = output.lanes[k]!;
            for (let i = 0; i < input.length; i++) {
              const reason = from.reasons[i]!;
              const x = from.values[i]!;
              const y = reason === REASON.ok ? forward(x) : Number.NaN;
              to.values[i] = y;
              to.reasons[i] = reason !== REASON.ok ? reason : Number.isNaN(y) ? reasonAt(x) : REASON.ok;
            }
          }
        },
      };
    },
  };
}

/** The error every stage raises for lanes it cannot take. */
export function unitMismatch(
  title: string,
  takes: readonly UnitId[] | 'any' | string,
  inputs: readonly UnitId[],
): UnitMismatch {
  const name = (id: UnitId) => UNITS[id].name;
  const wanted =
    typeof takes !== 'string'
      ? takes.map(name).join(' or ')
      : takes === 'any'
        ? 'at least one column'
        : takes;
  const given = inputs.length === 0 ? 'nothing' : inputs.map(name).join(', ');
  return new UnitMismatch(
    `${title} needs ${wanted}, but its input is ${given}. Add a stage before it that gives ${wanted}, or move it.`,
  );
}
