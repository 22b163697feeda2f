/** Samples column by column: the instants, then each column over them. */
export interface Samples {
  readonly times: Float64Array;
  readonly columns: readonly Float64Array[];
}

/** Samples that one bucket of an overview stands for. */
export const BUCKET_SAMPLES = 64;

/** Stretches of a recording: when each begins and ends, with the lowest and highest of each column in it. */
export interface Buckets {
  readonly firstS: Float64Array;
  readonly lastS: Float64Array;
  readonly low: readonly Float64Array[];
  readonly high: readonly Float64Array[];
}

/**
 * Every 64 samples of a chunk, packed: n begins, n ends, then n lows and n highs a column. A column without numbers in a
 * stretch has Infinity as its lowest and -Infinity as its highest.
 */
export function packOverview({ times, columns }: Samples): Buffer {
  const n = Math.ceil(times.length / BUCKET_SAMPLES);
  const all = new Float64Array(n * (2 + 2 * columns.length));
  for (let b = 0; b < n; b++) {
    const from = b * BUCKET_SAMPLES;
    const to = Math.min(times.length, from + BUCKET_SAMPLES);
    all[b] = times[from]!;
    all[n + b] = times[to - 1]!;
    columns.forEach((column, k) => {
      let low = Infinity;
      let high = -Infinity;
      for (let i = from; i < to; i++) {
        const v = column[i]!;
        if (v < low) low = v;
        if (v > high) high = v;
      }
      all[n * (2 + 2 * k) + b] = low;
      all[n * (3 + 2 * k) + b] = high;
    });
  }
  return Buffer.from(all.buffer);
}

/** Lowest and highest of each column of a whole chunk, packed, from its overview. */
export function packRanges(overview: Buffer, columnCount: number): Buffer {
  const { low, high } = unpackOverview(overview, columnCount);
  const all = new Float64Array(2 * columnCount);
  for (let k = 0; k < columnCount; k++) {
    all[2 * k] = Math.min(...low[k]!);
    all[2 * k + 1] = Math.max(...high[k]!);
  }
  return Buffer.from(all.buffer);
}

export function unpackOverview(bytes: Buffer, columnCount: number): Buckets {
  const all = new Float64Array(new Uint8Array(bytes).buffer);
  const n = all.length / (2 + 2 * columnCount);
  const part = (i: number) => all.subarray(n * i, n * (i + 1));
  const columns = Array.from({ length: columnCount }, (_, k) => k);
  return {
    firstS: part(0),
    lastS: part(1),
    low: columns.map((k) => part(2 + 2 * k)),
    high: columns.map((k) => part(3 + 2 * k)),
  };
}

/** Several runs of buckets as one, without those that lie wholly outside a stretch of time. */
export function joinBuckets(
  parts: readonly Buckets[],
  columnCount: number,
  fromS: number,
  toS: number,
): Buckets {
  const kept = parts.map((p) => {
    let first = 0;
    let last = p.firstS.length;
    while (first < last && p.lastS[first]! < fromS) first++;
    while (last > first && p.firstS[last - 1]! > toS) last--;
    return { p, first, last };
  });
  const n = kept.reduce((sum, k) => sum + k.last - k.first, 0);
  const join = (of: (p: Buckets) => Float64Array) => {
    const all = new Float64Array(n);
    let at = 0;
    for (const { p, first, last } of kept) {
      all.set(of(p).subarray(first, last), at);
      at += last - first;
    }
    return all;
  };
  const columns = Array.from({ length: columnCount }, (_, k) => k);
  return {
    firstS: join((p) => p.firstS),
    lastS: join((p) => p.lastS),
    low: columns.map((k) => join((p) => p.low[k]!)),
    high: columns.map((k) => join((p) => p.high[k]!)),
  };
}

/** Every so many buckets as a pair of rows: lowest at the begin, highest in the middle. NaN where a column had no number. */
export function pairsOf(buckets: Buckets, each: number): Samples {
  const n = buckets.firstS.length;
  const rows = Math.ceil(n / each);
  const times = new Float64Array(2 * rows);
  const columns = buckets.low.map(() => new Float64Array(2 * rows));
  for (let r = 0; r < rows; r++) {
    const from = r * each;
    const to = Math.min(n, from + each);
    times[2 * r] = buckets.firstS[from]!;
    times[2 * r + 1] = (buckets.firstS[from]! + buckets.lastS[to - 1]!) / 2;
    columns.forEach((column, k) => {
      let low = Infinity;
      let high = -Infinity;
      for (let b = from; b < to; b++) {
        if (buckets.low[k]![b]! < low) low = buckets.low[k]![b]!;
        if (buckets.high[k]![b]! > high) high = buckets.high[k]![b]!;
      }
      column[2 * r] = low === Infinity ? Number.NaN : low;
      column[2 * r + 1] = high === -Infinity ? Number.NaN : high;
    });
  }
  return { times, columns };
}
