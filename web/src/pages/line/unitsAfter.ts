import { stageKind } from '@lucky-needle/core/line';
import type { LineSpec } from '@lucky-needle/core/model';
import type { UnitId } from '@lucky-needle/core/units';

/** The units of a line's columns behind its first so many stages. */
export function unitsAfter(line: LineSpec, count: number): readonly UnitId[] {
  let units: readonly UnitId[] = line.sources.map((s) => s.unit);
  for (const stage of line.stages.slice(0, count)) {
    const kind = stageKind(stage.kind);
    if (!kind || !kind.accepts(units)) return units;
    try {
      units = kind.signature(stage.params, units);
    } catch (error) {
      // A stage that is being edited may not fit for the moment; its card says so.
      if (error instanceof RangeError) return units;
      throw error;
    }
  }
  return units;
}
