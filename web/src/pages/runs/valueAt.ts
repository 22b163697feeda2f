export interface Between {
  /** Readings at both moments, on the straight line between neighbours; NaN outside and beside gaps. */
  readonly a: number;
  readonly b: number;
  /** Mean of the readings from the one to the other, weighted by time; NaN without any. */
  readonly mean: number;
}

/** What a curve reads at two moments, and in the mean between them. */
export function readBetween(
  curve: { readonly times: Float64Array; readonly values: Float64Array },
  fromS: number,
  toS: number,
): Between {
  const [first, last] = fromS <= toS ? [fromS, toS] : [toS, fromS];
  let area = 0;
  let span = 0;
  for (let i = 1; i < curve.times.length; i++) {
    const [t0, t1] = [Math.max(first, curve.times[i - 1]!), Math.min(last, curve.times[i]!)];
    if (t1 <= t0) continue;
    const middle = valueAt(curve, (t0 + t1) / 2);
    if (Number.isNaN(middle)) continue;
    area += middle * (t1 - t0);
    span += t1 - t0;
  }
  return { a: valueAt(curve, fromS), b: valueAt(curve, toS), mean: span > 0 ? area / span : Number.NaN };
}

function valueAt({ times, values }: { times: Float64Array; values: Float64Array }, t: number): number {
  if (!(t >= times[0]!) || t > times[times.length - 1]!) return Number.NaN;
  let low = 0;
  let high = times.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (times[middle]! <= t) low = middle;
    else high = middle;
  }
  const share = high === low ? 0 : (t - times[low]!) / (times[high]! - times[low]!);
  return share === 0 ? values[low]! : values[low]! + share * (values[high]! - values[low]!);
}
