export interface PeakOptions {
  readonly height?: number;
  /** Samples between neighbouring peaks, at least; the tallest are kept first. */
  readonly distance?: number;
  readonly prominence?: number;
  /** Samples at half prominence, at least. */
  readonly width?: number;
}

export interface Peaks {
  readonly indices: Int32Array;
  readonly prominences: Float64Array;
  /** Width at half prominence, in samples. */
  readonly widths: Float64Array;
}

/**
 * Local maxima of a recording (the middle of a flat top), filtered by height, then distance, then prominence, then width.
 * Prominence is the height above the higher of the two lowest points between the peak and the nearest higher ground on
 * either side; worked out for all peaks in one pass with a stack, so its cost grows with the samples only.
 * @throws {RangeError} when a sample is NaN: detect in the good stretches one by one
 */
export function findPeaks(x: Float64Array, options: PeakOptions = {}): Peaks {
  for (let i = 0; i < x.length; i++) {
    if (x[i]! !== x[i]!)
      throw new RangeError(`Sample ${i} is no number. Look for peaks in the good stretches one by one.`);
  }
  const all = localMaxima(x);
  const bases = basesOf(x, all);
  let kept: number[] | Int32Array = Int32Array.from(all, (_, k) => k);
  if (options.height !== undefined) kept = kept.filter((k) => x[all[k]!]! >= options.height!);
  if (options.distance !== undefined && options.distance > 1)
    kept = byDistance(x, all, Int32Array.from(kept), options.distance);
  const prominenceOf = (k: number) => x[all[k]!]! - Math.max(x[bases.left[k]!]!, x[bases.right[k]!]!);
  if (options.prominence !== undefined) kept = kept.filter((k) => prominenceOf(k) >= options.prominence!);
  const widthAt = (k: number) => widthOf(x, all[k]!, bases.left[k]!, bases.right[k]!, prominenceOf(k));
  if (options.width !== undefined) kept = kept.filter((k) => widthAt(k) >= options.width!);
  return {
    indices: Int32Array.from(kept, (k) => all[k]!),
    prominences: Float64Array.from(kept, prominenceOf),
    widths: Float64Array.from(kept, widthAt),
  };
}

function localMaxima(x: Float64Array): Int32Array {
  const found = new Int32Array((x.length >> 1) + 1);
  let count = 0;
  let i = 1;
  const last = x.length - 1;
  while (i < last) {
    if (x[i - 1]! < x[i]!) {
      let ahead = i + 1;
      while (ahead < last && x[ahead] === x[i]) ahead++;
      if (x[ahead]! < x[i]!) {
        found[count++] = (i + ahead - 1) >> 1;
        i = ahead;
      }
    }
    i++;
  }
  return found.subarray(0, count);
}

/** For each peak the place of the lowest sample on either side before higher ground (or the end). */
function basesOf(x: Float64Array, peaks: Int32Array): { left: Int32Array; right: Int32Array } {
  return { left: sweep(x, peaks, 1), right: sweep(x, peaks, -1) };
}

function sweep(x: Float64Array, peaks: Int32Array, step: 1 | -1): Int32Array {
  const n = peaks.length;
  const base = new Int32Array(n);
  const stack = new Int32Array(n);
  let depth = 0;
  let from = step === 1 ? 0 : x.length - 1;
  for (let m = 0; m < n; m++) {
    const k = step === 1 ? m : n - 1 - m;
    const peak = peaks[k]!;
    // Lowest sample between the last peak and this one; of equal ones the nearest to this peak.
    let lowest = peak;
    for (let i = from; i !== peak; i += step) if (x[i]! <= x[lowest]!) lowest = i;
    while (depth > 0 && x[peaks[stack[depth - 1]!]!]! <= x[peak]!) {
      const below = base[stack[--depth]!]!;
      if (x[below]! < x[lowest]!) lowest = below;
    }
    base[k] = lowest;
    stack[depth++] = k;
    from = peak;
  }
  return base;
}

function byDistance(x: Float64Array, peaks: Int32Array, kept: Int32Array, distance: number): Int32Array {
  const order = Int32Array.from(kept, (_, i) => i).sort(
    (a, b) => x[peaks[kept[a]!]!]! - x[peaks[kept[b]!]!]! || a - b,
  );
  const gone = new Uint8Array(kept.length);
  const least = Math.ceil(distance);
  for (let m = order.length - 1; m >= 0; m--) {
    const i = order[m]!;
    if (gone[i]) continue;
    const at = peaks[kept[i]!]!;
    for (let j = i - 1; j >= 0 && at - peaks[kept[j]!]! < least; j--) gone[j] = 1;
    for (let j = i + 1; j < kept.length && peaks[kept[j]!]! - at < least; j++) gone[j] = 1;
  }
  return kept.filter((_, i) => !gone[i]);
}

function widthOf(x: Float64Array, peak: number, left: number, right: number, prominence: number): number {
  const level = x[peak]! - prominence / 2;
  let i = peak;
  while (i > left && level < x[i]!) i--;
  const from = x[i]! < level ? i + (level - x[i]!) / (x[i + 1]! - x[i]!) : i;
  i = peak;
  while (i < right && level < x[i]!) i++;
  const to = x[i]! < level ? i - (level - x[i]!) / (x[i - 1]! - x[i]!) : i;
  return to - from;
}
