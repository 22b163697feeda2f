interface Series {
  readonly times: Float64Array;
  readonly values: Float64Array;
}

/** Second less first at the instants that both have, with its mean over the good ones; NaN where either is bad. */
export function differenceOf(a: Series, b: Series): Series & { readonly mean: number } {
  const times = new Float64Array(Math.min(a.times.length, b.times.length));
  const values = new Float64Array(times.length);
  let n = 0;
  let sum = 0;
  let good = 0;
  for (let i = 0, j = 0; i < a.times.length && j < b.times.length;) {
    if (a.times[i]! < b.times[j]!) i++;
    else if (a.times[i]! > b.times[j]!) j++;
    else {
      const difference = b.values[j++]! - a.values[i]!;
      times[n] = a.times[i++]!;
      values[n++] = difference;
      if (Number.isNaN(difference)) continue;
      sum += difference;
      good++;
    }
  }
  return { times: times.subarray(0, n), values: values.subarray(0, n), mean: sum / good };
}
