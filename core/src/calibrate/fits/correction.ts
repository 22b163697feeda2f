import { compileLine } from '../../line/compile.ts';
import type { PrepareContext } from '../../stage/contract.ts';
import type { LineSpec, StageSpec } from '../../model/line.ts';
import { UNITS, type UnitId } from '../../units/index.ts';
import type { FitPoint } from '../points.ts';
import type { FitTarget } from './fitKind.ts';

/** What every fit of shown against true value works on. */
export const CORRECTION = ['gain-offset'];

/** A curve goes on beyond the outermost points by so much of their span; further out it would be a guess. */
export const BEYOND = 0.1;

export interface Correction {
  readonly stage: StageSpec;
  readonly gain: FitTarget;
  readonly offset: FitTarget;
  readonly unit: UnitId;
}

/** The gain-and-offset stage of a line with its two constants as targets, or a sentence that says there is none. */
export function correctionOf(
  line: LineSpec,
  context: PrepareContext,
  points: readonly FitPoint[],
): Correction | string {
  const stage = line.stages.find((s) => CORRECTION.includes(s.kind) && !s.off);
  if (!stage) return 'The line has no gain-and-offset stage. Add one on the Line page.';
  const compiled = compileLine(line, context);
  const at = compiled.stages.find((s) => s.spec.id === stage.id)!;
  const unit = at.outputs[0]!.unit;
  const span = Math.max(...points.map((p) => Math.abs(p.reference)), 1e-9);
  const target = (param: string, title: string, symbol: string, scale: number): FitTarget => {
    const value = Number(stage.params[param]);
    return { stageId: stage.id, param, title, unit: symbol, before: value, start: value, scale };
  };
  return {
    stage,
    unit,
    gain: target('gain', 'Gain', '', 0.01),
    offset: target('offset', 'Offset', UNITS[unit].symbol, span * 0.01),
  };
}
