import { circularMeanOf } from '../figures/index.ts';
import { effectiveCount, mean, sampleSd, shortWay } from '../numerics/index.ts';

export interface StretchStatistics {
  /** Good readings. */
  readonly n: number;
  readonly bad: number;
  readonly mean: number;
  /** Of single readings, with n - 1. */
  readonly sd: number;
  /** Standard uncertainty of the mean, from the scatter and from how far readings depend on those before. */
  readonly u: number;
  /** From the first to the last good one, s. */
  readonly seconds: number;
}

/**
 * Mean and scatter of readings; null with fewer than three good ones.
 * @param isDirection readings are angles round the circle: the mean is the mean direction, degrees
 */
export function stretchStatistics(
  times: Float64Array,
  values: Float64Array,
  isDirection = false,
): StretchStatistics | null {
  const good: number[] = [];
  let [first, last] = [Number.NaN, Number.NaN];
  for (let i = 0; i < values.length; i++) {
    if (!Number.isFinite(values[i]!)) continue;
    if (good.length === 0) first = times[i]!;
    last = times[i]!;
    good.push(values[i]!);
  }
  if (good.length < 3) return null;
  const middle = isDirection ? circularMeanOf(good).mean : mean(good);
  if (Number.isNaN(middle)) return null;
  // What directions scatter by is the short way from their middle.
  const around = isDirection ? good.map((v) => shortWay(middle, v)) : good;
  const sd = sampleSd(around);
  return {
    n: good.length,
    bad: values.length - good.length,
    mean: middle,
    sd,
    u: sd / Math.sqrt(effectiveCount(around)),
    seconds: last - first,
  };
}
