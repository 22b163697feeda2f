import type { ParamValue } from '@lucky-needle/core/model';

/**
 * Parameters when other channels are chosen. Lists that have a number for each of them, or one more for its own channel in
 * front, keep the numbers of those that stay; new ones begin at 0.
 */
export const numbersWith = (
  params: Readonly<Record<string, ParamValue>>,
  before: readonly string[],
  ids: readonly string[],
): Record<string, ParamValue> =>
  Object.fromEntries(
    Object.entries(params).map(([name, value]) => {
      const own = Array.isArray(value) ? value.length - before.length : -1;
      if (!Array.isArray(value) || (own !== 0 && own !== 1)) return [name, value];
      const of = (id: string) => {
        const at = before.indexOf(id);
        return at < 0 ? 0 : value[own + at]!;
      };
      return [name, [...value.slice(0, own), ...ids.map(of)]];
    }),
  );

/** What those numbers are good to, by "weights.0": it goes with the channel whose number it is. */
export const uncertaintyWith = (
  uncertainty: Readonly<Record<string, number>>,
  before: readonly string[],
  ids: readonly string[],
): Record<string, number> =>
  Object.fromEntries(
    Object.entries(uncertainty).flatMap(([param, u]) => {
      const [name, index] = param.split('.');
      if (index === undefined) return [[param, u] as const];
      const at = ids.indexOf(before[Number(index)] ?? '');
      return at < 0 ? [] : [[`${name}.${at}`, u] as const];
    }),
  );
