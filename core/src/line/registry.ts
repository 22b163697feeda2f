import { STAGES } from '../stages/index.ts';
import type { UnitId } from '../units/index.ts';
import type { StageKind } from '../stage/contract.ts';

const BY_KIND = new Map<string, StageKind>(STAGES.map((stage) => [stage.kind, stage]));

/** The stage kind of that name, or undefined. */
export function stageKind(kind: string): StageKind | undefined {
  return BY_KIND.get(kind);
}

/** Stage kinds that could follow lanes of these units, in registry order. */
export function stagesThatFit(units: readonly UnitId[]): StageKind[] {
  return STAGES.filter((stage) => stage.accepts(units));
}
