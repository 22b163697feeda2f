import { slidingMedian } from './slidingMedian.ts';

/** The last `width` values, kept sorted: median and spread at the price of one insertion a sample. */
export interface SortedWindow {
  /** All that it remembers, as plain data. */
  readonly memory: object;
  /** Drops the oldest value and takes in x. */
  push(x: number): void;
  median(): number;
  /** Median absolute deviation from the median. */
  medianDeviation(): number;
}

/** @param width 1 or more; the window starts full of the first value pushed */
export function sortedWindow(width: number): SortedWindow {
  const memory = { ring: new Float64Array(width), sorted: new Float64Array(width), at: -1 };
  return {
    memory,
    push(x) {
      const { ring, sorted, at } = memory;
      if (at < 0) {
        ring.fill(x);
        sorted.fill(x);
        memory.at = 0;
        return;
      }
      const old = ring[at]!;
      ring[at] = x;
      memory.at = at + 1 === width ? 0 : at + 1;
      // Slide the gap that the old value leaves towards the place of the new one.
      let i = 0;
      while (sorted[i] !== old) i++;
      while (i + 1 < width && sorted[i + 1]! < x) {
        sorted[i] = sorted[i + 1]!;
        i++;
      }
      while (i > 0 && sorted[i - 1]! > x) {
        sorted[i] = sorted[i - 1]!;
        i--;
      }
      sorted[i] = x;
    },
    median() {
      const { sorted } = memory;
      const middle = width >> 1;
      return width % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
    },
    medianDeviation() {
      // Deviations to the left and right of the median are sorted already: merge them up to the middle one.
      const { sorted } = memory;
      const centre = this.median();
      let left = (width - 1) >> 1;
      let right = left + 1;
      let previous = 0;
      let current = 0;
      for (let k = 0; k <= width >> 1; k++) {
        const a = left >= 0 ? Math.abs(centre - sorted[left]!) : Infinity;
        const b = right < width ? Math.abs(sorted[right]! - centre) : Infinity;
        previous = current;
        if (a <= b) {
          current = a;
          left--;
        } else {
          current = b;
          right++;
        }
      }
      return width % 2 === 1 ? current : (previous + current) / 2;
    },
  };
}

/** Moving median of odd width, centred; the ends repeat the outermost sample. For recordings. */
export function centredMedian(x: Float64Array, width: number): Float64Array {
  const n = x.length;
  const half = (width - 1) / 2;
  // Only the ends are copied to be padded: a whole column would cost a tenth of the work.
  if (n < 4 * width) return centred(x, width, (padded, out) => slidingMedian(padded, width, out));
  checkWidth(width);
  const out = new Float64Array(n);
  slidingMedian(x, width, out.subarray(half, n - half));
  const end = 2 * width;
  const ends = (of: Float64Array) => centred(of, width, (padded, to) => slidingMedian(padded, width, to));
  out.set(ends(x.subarray(0, end)).subarray(0, half));
  out.set(ends(x.subarray(n - end)).subarray(end - half), n - half);
  return out;
}

/** Moving mean of odd width, centred; the ends repeat the outermost sample. Each window is summed afresh: no drift. */
export function centredMean(x: Float64Array, width: number): Float64Array {
  return centred(x, width, (padded, out) => {
    for (let i = 0; i < out.length; i++) {
      let sum = 0;
      for (let k = 0; k < width; k++) sum += padded[i + k]!;
      out[i] = sum / width;
    }
  });
}

function checkWidth(width: number): void {
  if (!Number.isInteger(width) || width < 1 || width % 2 === 0)
    throw new RangeError(
      `Enter an odd window width; received ${width}. Use ${2 * Math.floor(width / 2) + 1}.`,
    );
}

function centred(
  x: Float64Array,
  width: number,
  fill: (padded: Float64Array, out: Float64Array) => void,
): Float64Array {
  checkWidth(width);
  const half = (width - 1) / 2;
  const n = x.length;
  const out = new Float64Array(n);
  if (n === 0) return out;
  const padded = new Float64Array(n + 2 * half);
  padded.fill(x[0]!, 0, half);
  padded.set(x, half);
  padded.fill(x[n - 1]!, half + n);
  fill(padded, out);
  return out;
}
