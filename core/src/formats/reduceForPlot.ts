/** Lowest and highest of each stretch, so that a peak is never lost in drawing. */
export interface ReducedColumn {
  readonly times: Float64Array;
  readonly values: Float64Array;
  readonly reducedBy: number;
}

/**
 * Thins a column to about `points` for drawing: each stretch of equal count gives its lowest and highest sample, in
 * the order they came. A stretch of bad samples gives one NaN, which draws as a gap.
 */
export function reduceForPlot(times: Float64Array, values: Float64Array, points: number): ReducedColumn {
  const n = values.length;
  if (n <= points) return { times, values, reducedBy: 1 };
  const stretch = Math.ceil(n / Math.max(1, Math.floor(points / 2)));
  const t: number[] = [];
  const v: number[] = [];
  for (let from = 0; from < n; from += stretch) {
    const to = Math.min(n, from + stretch);
    let low = -1;
    let high = -1;
    for (let i = from; i < to; i++) {
      const x = values[i]!;
      if (Number.isNaN(x)) continue;
      if (low < 0 || x < values[low]!) low = i;
      if (high < 0 || x > values[high]!) high = i;
    }
    if (low < 0) {
      t.push(times[from]!);
      v.push(Number.NaN);
      continue;
    }
    const [first, second] = low < high ? [low, high] : [high, low];
    t.push(times[first]!);
    v.push(values[first]!);
    if (second !== first) {
      t.push(times[second]!);
      v.push(values[second]!);
    }
  }
  return { times: Float64Array.from(t), values: Float64Array.from(v), reducedBy: stretch };
}
