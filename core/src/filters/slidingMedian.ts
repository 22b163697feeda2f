/** Runs up to this length are sorted by insertion, longer ones by merging such runs. */
const RUN = 24;

/**
 * Median of every window of odd width in a column without NaN, at a price that hardly depends on the width: each block of
 * a window's length is sorted once; a window lies over two blocks, whose sorted order is kept as a linked list that samples
 * leave and join in constant time, in the order in which they were put in.
 * Source: Suomela, "Median filtering is equivalent to sorting", arXiv:1406.1717 (2014).
 * @param x at least `width` values @param width odd
 * @param out receives x.length - width + 1 medians
 */
export function slidingMedian(x: Float64Array, width: number, out: Float64Array): void {
  const k = width;
  const h = (k - 1) / 2;
  const total = x.length - k + 1;
  const scratch = new Int32Array(2 * k);
  const tail = k;
  // Of two blocks: the older one, which samples leave, and the newer one, which they join.
  let nextA = new Int32Array(k + 1);
  let prevA = new Int32Array(k + 1);
  let nextB = new Int32Array(k + 1);
  let prevB = new Int32Array(k + 1);
  let baseA = 0;
  link(x, 0, k, nextA, prevA, scratch);
  // The median's place in the block, and how many smaller ones are in it.
  let mA = nextA[tail]!;
  for (let i = 0; i < h; i++) mA = nextA[mA]!;
  let sA = h;
  out[0] = x[mA]!;
  for (let done = 1; done < total;) {
    const baseB = baseA + k;
    const size = Math.min(k, x.length - baseB);
    link(x, baseB, size, nextB, prevB, scratch);
    // All leave in the reverse order, so that they can come back in theirs.
    for (let i = size - 1; i >= 0; i--) {
      nextB[prevB[i]!] = nextB[i]!;
      prevB[nextB[i]!] = prevB[i]!;
    }
    let mB = tail;
    let sB = 0;
    for (let i = 0; i < size; i++) {
      const before = prevA[i]!;
      const after = nextA[i]!;
      nextA[before] = after;
      prevA[after] = before;
      const gone = x[baseA + i]!;
      const middleA = x[baseA + mA]!;
      if (mA === tail || gone < middleA || (gone === middleA && i < mA)) sA--;
      else {
        if (mA === i) mA = after;
        if (sA > 0) {
          mA = prevA[mA]!;
          sA--;
        }
      }
      nextB[prevB[i]!] = i;
      prevB[nextB[i]!] = i;
      if (mB === tail) mB = prevB[mB]!;
      else {
        const come = x[baseB + i]!;
        const middleB = x[baseB + mB]!;
        if (come < middleB || (come === middleB && i < mB)) mB = prevB[mB]!;
      }
      if (sA + sB < h) {
        if (mB === tail || (mA !== tail && x[baseA + mA]! <= x[baseB + mB]!)) {
          mA = nextA[mA]!;
          sA++;
        } else {
          mB = nextB[mB]!;
          sB++;
        }
      }
      const a = mA === tail ? Infinity : x[baseA + mA]!;
      const b = mB === tail ? Infinity : x[baseB + mB]!;
      out[done++] = a <= b ? a : b;
    }
    [nextA, nextB] = [nextB, nextA];
    [prevA, prevB] = [prevB, prevA];
    baseA = baseB;
    mA = mB;
    sA = sB;
  }
}

/** Sorts a block by value, equal ones by place, and links it up in that order, from the tail round to it. */
function link(
  x: Float64Array,
  base: number,
  size: number,
  next: Int32Array,
  prev: Int32Array,
  scratch: Int32Array,
): void {
  const tail = next.length - 1;
  const order = sortedOrder(x, base, size, scratch);
  let p = tail;
  for (let i = 0; i < size; i++) {
    const q = scratch[order + i]!;
    next[p] = q;
    prev[q] = p;
    p = q;
  }
  next[p] = tail;
  prev[tail] = p;
}

/** @returns where in the scratch the order begins */
function sortedOrder(x: Float64Array, base: number, size: number, scratch: Int32Array): number {
  const half = scratch.length / 2;
  for (let from = 0; from < size; from += RUN) {
    const to = Math.min(size, from + RUN);
    for (let i = from; i < to; i++) {
      const v = x[base + i]!;
      let j = i - 1;
      while (j >= from && x[base + scratch[j]!]! > v) {
        scratch[j + 1] = scratch[j]!;
        j--;
      }
      scratch[j + 1] = i;
    }
  }
  let [source, target] = [0, half];
  for (let run = RUN; run < size; run *= 2) {
    for (let from = 0; from < size; from += 2 * run) {
      const middle = Math.min(size, from + run);
      const to = Math.min(size, from + 2 * run);
      let [i, j] = [from, middle];
      for (let at = from; at < to; at++) {
        const left =
          j >= to || (i < middle && x[base + scratch[source + i]!]! <= x[base + scratch[source + j]!]!);
        scratch[target + at] = left ? scratch[source + i++]! : scratch[source + j++]!;
      }
    }
    [source, target] = [target, source];
  }
  return source;
}
