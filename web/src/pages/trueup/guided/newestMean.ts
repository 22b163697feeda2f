import { lowerBound } from '@lucky-needle/core/numerics';

/** Mean of the newest seconds of a column, with the scatter of single readings; null without readings. */
export function newestMean(
  times: Float64Array,
  values: Float64Array | undefined,
  seconds: number,
): { mean: number; sd: number; n: number } | null {
  const newest = times.at(-1);
  if (newest === undefined || !values) return null;
  const from = lowerBound(times, newest - seconds);
  const n = values.length - from;
  if (n < 2) return null;
  let sum = 0;
  for (let i = from; i < values.length; i++) sum += values[i]!;
  const mean = sum / n;
  let squares = 0;
  for (let i = from; i < values.length; i++) squares += (values[i]! - mean) ** 2;
  return { mean, sd: Math.sqrt(squares / (n - 1)), n };
}
