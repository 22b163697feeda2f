import { effectiveCount, lowerBound, mean, sampleSd } from '@lucky-needle/core/numerics';
import { UNITS, type UnitId } from '@lucky-needle/core/units';

export interface StretchRate {
  /** Mean of the good readings, a second. */
  readonly hz: number;
  /** Standard uncertainty of that mean from the readings' scatter. */
  readonly u: number;
  readonly n: number;
  /** From the first to the last of them, s. */
  readonly seconds: number;
}

/** Mean rate over the readings since a moment; null with fewer than three. */
export function stretchRate(
  reading: { readonly times: Float64Array; readonly values: Float64Array; readonly reasons: Uint8Array },
  sinceS: number,
  unit: UnitId,
): StretchRate | null {
  const good: number[] = [];
  let [first, last] = [Number.NaN, Number.NaN];
  for (let i = lowerBound(reading.times, sinceS); i < reading.values.length; i++) {
    if (reading.reasons[i] !== 0 || !Number.isFinite(reading.values[i])) continue;
    if (good.length === 0) first = reading.times[i]!;
    last = reading.times[i]!;
    good.push(reading.values[i]!);
  }
  if (good.length < 3) return null;
  const { scale } = UNITS[unit];
  return {
    hz: mean(good) * scale,
    u: (sampleSd(good) / Math.sqrt(effectiveCount(good))) * scale,
    n: good.length,
    seconds: last - first,
  };
}
