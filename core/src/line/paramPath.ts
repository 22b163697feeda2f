import type { LineSpec } from '../model/line.ts';
import type { StageParams } from '../stage/contract.ts';

/** A number among a stage's parameters: by name, or "matrix.3" for an entry of an array. NaN when there is none. */
export function paramAt(params: StageParams, path: string): number {
  const [name, index] = path.split('.');
  const value = params[name!];
  const found = index === undefined ? value : Array.isArray(value) ? value[Number(index)] : undefined;
  return typeof found === 'number' ? found : Number.NaN;
}

/** The parameters with one number replaced; the given ones are untouched. */
export function withParamAt(params: StageParams, path: string, value: number): StageParams {
  const [name, index] = path.split('.');
  if (index === undefined) return { ...params, [name!]: value };
  const array = params[name!];
  if (!Array.isArray(array)) return params;
  return { ...params, [name!]: array.map((v, i) => (i === Number(index) ? value : v)) };
}

/** A line with one number of one stage replaced. */
export const withLineParam = (spec: LineSpec, stageId: string, param: string, value: number): LineSpec => ({
  ...spec,
  stages: spec.stages.map((s) =>
    s.id === stageId ? { ...s, params: withParamAt(s.params, param, value) } : s,
  ),
});
