import { readingAtRest } from '../line/atRest.ts';
import { compileLine } from '../line/compile.ts';
import { editLine } from '../line/edits.ts';
import type { FitResult } from '../model/calibration.ts';
import type { LineSpec } from '../model/line.ts';
import type { PrepareContext } from '../stage/contract.ts';

/** Stages that give no number beyond two ends of what they are given. */
const BOUND = ['polynomial', 'table'];

/** From where to where a fit gives numbers, in the unit of the line; null for one that has no such bound. */
export function fitReach(
  line: LineSpec,
  result: FitResult,
  context: PrepareContext,
): readonly [low: number, high: number] | null {
  const spec = editLine(line, result.edits);
  const at = spec.stages.findIndex(
    (s) => BOUND.includes(s.kind) && result.edits.some((e) => e.stageId === s.id),
  );
  const { low, high } = spec.stages[at]?.params ?? {};
  if (typeof low !== 'number' || typeof high !== 'number') return null;
  const before = compileLine({ ...spec, stages: spec.stages.slice(0, at) }, context);
  const behind = compileLine(
    { sources: [{ column: 'x', unit: before.outputs[0]!.unit }], stages: spec.stages.slice(at) },
    context,
  );
  const ends = [readingAtRest(behind, low), readingAtRest(behind, high)];
  return ends.every(Number.isFinite) ? [Math.min(...ends), Math.max(...ends)] : null;
}
