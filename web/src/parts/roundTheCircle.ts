interface Curve {
  readonly times: Float64Array;
  readonly values: Float64Array;
}

/** A curve of angles with a break wherever it passes from one end of the circle to the other: no line is drawn across. */
export function roundTheCircle({ times, values }: Curve): Curve {
  const jumps: number[] = [];
  for (let i = 1; i < values.length; i++) if (Math.abs(values[i]! - values[i - 1]!) > 180) jumps.push(i);
  if (jumps.length === 0) return { times, values };
  const t = new Float64Array(times.length + jumps.length);
  const v = new Float64Array(t.length);
  let next = 0;
  for (let i = 0, k = 0; i < values.length; i++, k++) {
    if (jumps[next] === i) {
      t[k] = times[i]!;
      v[k++] = Number.NaN;
      next++;
    }
    t[k] = times[i]!;
    v[k] = values[i]!;
  }
  return { times: t, values: v };
}
