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
  /** Width at half prominence, in samples; null unless a least width was asked for. */
  readonly widths: Float64Array | null;
}

/**
 * Local maxima of a recording (the middle of a flat top), filtered by height, then distance, then prominence, then width.
 * Prominence is the height above the higher of the two lowest points between the peak and the nearest higher ground on
 * either side; worked out for all peaks in one pass with a stack, so its cost grows with the samples only.
 * @throws {RangeError} when a sample is NaN: detect in the good stretches one by one
 */
export function findPeaks(x: Float64Array, options: PeakOptions = {}): Peaks {
  const all = localMaxima(x);
  const left = basesOf(x, all, 1);
  const right = basesOf(x, all, -1);
  const { height = -Infinity, distance = 1, prominence = -Infinity, width } = options;
  const prominences = new Float64Array(all.length);
  let kept: Int32Array = new Int32Array(all.length);
  let count = 0;
  for (let k = 0; k < all.length; k++) {
    const top = x[all[k]!]!;
    prominences[k] = top - Math.max(x[left[k]!]!, x[right[k]!]!);
    if (top >= height) kept[count++] = k;
  }
  kept = kept.subarray(0, count);
  if (distance > 1) kept = byDistance(x, all, kept, distance);
  kept = kept.filter((k) => prominences[k]! >= prominence);
  let widths: Float64Array | null = null;
  if (width !== undefined) {
    const widthAt = (k: number) => widthOf(x, all[k]!, left[k]!, right[k]!, prominences[k]!);
    kept = kept.filter((k) => widthAt(k) >= width);
    widths = Float64Array.from(kept, widthAt);
  }
  const indices = new Int32Array(kept.length);
  const found = new Float64Array(kept.length);
  for (let i = 0; i < kept.length; i++) {
    indices[i] = all[kept[i]!]!;
    found[i] = prominences[kept[i]!]!;
  }
  return { indices, prominences: found, widths };
}

function localMaxima(x: Float64Array): Int32Array {
  const found = new Int32Array((x.length >> 1) + 1);
  const last = x.length - 1;
  let count = 0;
  let before = x[0]!;
  if (x.length > 0 && before !== before) throw notANumber(0);
  for (let i = 1; i <= last; i++) {
    const here = x[i]!;
    if (here !== here) throw notANumber(i);
    if (before < here && i < last) {
      let ahead = i + 1;
      while (ahead < last && x[ahead] === here) ahead++;
      if (x[ahead]! < here) {
        found[count++] = (i + ahead - 1) >> 1;
        i = ahead - 1;
      }
    }
    before = here;
  }
  return found.subarray(0, count);
}

function notANumber(at: number): RangeError {
  return new RangeError(`Sample ${at} is not a number. Search each section without gaps separately.`);
}

/** For each peak the place of the lowest sample on one side before higher ground (or the end). */
function basesOf(x: Float64Array, peaks: Int32Array, step: 1 | -1): Int32Array {
  const n = peaks.length;
  const base = new Int32Array(n);
  const stack = new Int32Array(n);
  let depth = 0;
  let from = step === 1 ? 0 : x.length - 1;
  for (let m = 0; m < n; m++) {
    const k = step === 1 ? m : n - 1 - m;
    const peak = peaks[k]!;
    const top = x[peak]!;
    // Lowest sample between the last peak and this one; of equal ones the nearest to this peak.
    let lowest = peak;
    let low = top;
    for (let i = from; i !== peak; i += step) {
      const v = x[i]!;
      if (v <= low) {
        low = v;
        lowest = i;
      }
    }
    while (depth > 0 && x[peaks[stack[depth - 1]!]!]! <= top) {
      const below = base[stack[--depth]!]!;
      if (x[below]! < low) {
        low = x[below]!;
        lowest = below;
      }
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
