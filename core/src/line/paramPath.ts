import type { LineSpec } from '../model/line.ts';
import type { StageParams } from '../stage/contract.ts';

/** What "matrix.3" means: the name of a parameter, and which number of a list; -1 for a single one. */
export function pathOf(path: string): { readonly name: string; readonly place: number } {
  const [name, index] = path.split('.');
  return { name: name!, place: index === undefined ? -1 : Number(index) };
}

/** A number among a stage's parameters: by name, or "matrix.3" for an entry of an array. NaN when there is none. */
export function paramAt(params: StageParams, path: string): number {
  const { name, place } = pathOf(path);
  const value = params[name];
  const found = place < 0 ? value : Array.isArray(value) ? value[place] : undefined;
  return typeof found === 'number' ? found : Number.NaN;
}

/** The parameters with one number replaced; the given ones are untouched. */
export function withParamAt(params: StageParams, path: string, value: number): StageParams {
  const { name, place } = pathOf(path);
  if (place < 0) return { ...params, [name]: value };
  const array = params[name];
  if (!Array.isArray(array)) return params;
  return { ...params, [name]: array.map((v, i) => (i === place ? value : v)) };
}

/** A line with one number of one stage replaced. */
export const withLineParam = (spec: LineSpec, stageId: string, param: string, value: number): LineSpec => ({
  ...spec,
  stages: spec.stages.map((s) =>
    s.id === stageId ? { ...s, params: withParamAt(s.params, param, value) } : s,
  ),
});
