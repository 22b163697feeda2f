import type { LineSpec } from '../model/line.ts';
import type { UnitId } from '../units/index.ts';

/**
 * The line with its three axes put right: the constants of its three-axis correction where it starts with one, else a new one
 * before everything.
 * @param to unit of the corrected axes
 */
export function withAxes(
  line: LineSpec,
  { offset, matrix }: { readonly offset: readonly number[]; readonly matrix: readonly number[] },
  to: UnitId,
): LineSpec {
  const params = { offset: [...offset], matrix: [...matrix], to };
  const [first] = line.stages;
  if (first?.kind === 'vector-correction')
    return { ...line, stages: [{ ...first, params, uncertainty: {} }, ...line.stages.slice(1)] };
  const taken = (id: string) => line.stages.some((s) => s.id === id);
  const id = taken('axes') ? 'axes-correction' : 'axes';
  return {
    ...line,
    stages: [{ id, kind: 'vector-correction', params, uncertainty: {}, off: false }, ...line.stages],
  };
}
