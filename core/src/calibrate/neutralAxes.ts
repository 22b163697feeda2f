import type { LineSpec } from '../model/line.ts';
import type { UnitId } from '../units/index.ts';

/**
 * The line with a three-axis correction in front that changes nothing yet, for a true-up of its axes to fill in; the line as
 * it is where it starts with one already.
 * @param to unit of the corrected axes
 */
export function withNeutralAxes(line: LineSpec, to: UnitId): LineSpec {
  if (line.stages[0]?.kind === 'vector-correction') return line;
  const id = line.stages.some((s) => s.id === 'axes') ? 'axes-correction' : 'axes';
  const params = { offset: [0, 0, 0], matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1], to };
  return {
    ...line,
    stages: [{ id, kind: 'vector-correction', params, uncertainty: {}, off: false }, ...line.stages],
  };
}
