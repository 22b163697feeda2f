import { medianOfNine } from './medianOfNine.ts';

/**
 * Median of every window of odd width in a column without NaN: the samples above it lie in one heap, those below in another,
 * and one that leaves gives its place to the one that comes, so that mostly few others move. Values below are kept turned
 * over: both heaps have on top what lies nearest to the median. Heaps are plain arrays, since nothing here may be looked up.
 * Source: Härdle and Steiger, "Algorithm AS 296: Optimal median smoothing", Applied Statistics 44 (1995) 258-264.
 * @param x at least `width` values @param width odd
 * @param out receives x.length - width + 1 medians
 */
export function slidingMedian(x: Float64Array, width: number, out: Float64Array): void {
  if (width === 9) return medianOfNine(x, out);
  const half = (width - 1) / 2;
  // Places begin at 1. Behind the last key stands an infinite one, so that a last key without a sister has one.
  const above = new Float64Array(half + 2).fill(Infinity);
  const below = new Float64Array(half + 2).fill(Infinity);
  const aboveSlots = new Int32Array(half + 2);
  const belowSlots = new Int32Array(half + 2);
  // Where each sample of the window stands: its place above, less than 0 for one below, 0 for the median.
  const places = new Int32Array(width);
  const order = Array.from({ length: width }, (_, i) => i).sort((a, b) => x[a]! - x[b]!);
  let slot = order[half]!;
  let median = x[slot]!;
  for (let p = 1; p <= half; p++) {
    const [up, down] = [order[half + p]!, order[half - p]!];
    above[p] = x[up]!;
    aboveSlots[p] = up;
    places[up] = p;
    below[p] = -x[down]!;
    belowSlots[p] = down;
    places[down] = -p;
  }
  out[0] = median;
  for (let t = width, leaves = 0; t < x.length; t++) {
    const v = x[t]!;
    let p = places[leaves]!;
    if (p > 0 && v >= median) {
      p =
        v > above[p]!
          ? sink(above, aboveSlots, places, 1, half, p, v)
          : rise(above, aboveSlots, places, 1, p, v);
      above[p] = v;
      aboveSlots[p] = leaves;
      places[leaves] = p;
    } else if (p < 0 && v <= median) {
      p =
        -v > below[-p]!
          ? sink(below, belowSlots, places, -1, half, -p, -v)
          : rise(below, belowSlots, places, -1, -p, -v);
      below[p] = -v;
      belowSlots[p] = leaves;
      places[leaves] = -p;
    } else {
      // The median goes to the side that has lost one. What comes is the next, unless the other side's nearest lies nearer.
      if (p > 0) {
        const to = rise(above, aboveSlots, places, 1, p, median);
        above[to] = median;
        aboveSlots[to] = slot;
        places[slot] = to;
      } else if (p < 0) {
        const to = rise(below, belowSlots, places, -1, -p, -median);
        below[to] = -median;
        belowSlots[to] = slot;
        places[slot] = -to;
      }
      if (p <= 0 && v > above[1]!) {
        median = above[1]!;
        slot = aboveSlots[1]!;
        const to = sink(above, aboveSlots, places, 1, half, 1, v);
        above[to] = v;
        aboveSlots[to] = leaves;
        places[leaves] = to;
      } else if (p >= 0 && -v > below[1]!) {
        median = -below[1]!;
        slot = belowSlots[1]!;
        const to = sink(below, belowSlots, places, -1, half, 1, -v);
        below[to] = -v;
        belowSlots[to] = leaves;
        places[leaves] = -to;
      } else {
        median = v;
        slot = leaves;
      }
      places[slot] = 0;
    }
    out[t - width + 1] = median;
    if (++leaves === width) leaves = 0;
  }
}

/** Makes room for a key further from the median: nearer ones move up. @param sign 1 above, -1 below @returns its place */
function sink(
  keys: Float64Array,
  slots: Int32Array,
  places: Int32Array,
  sign: number,
  size: number,
  from: number,
  key: number,
): number {
  let at = from;
  for (let next = 2 * at; next <= size; next = 2 * at) {
    let nearest = keys[next]!;
    const sister = keys[next + 1]!;
    if (sister < nearest) {
      nearest = sister;
      next++;
    }
    if (nearest >= key) break;
    keys[at] = nearest;
    const moved = slots[next]!;
    slots[at] = moved;
    places[moved] = sign * at;
    at = next;
  }
  return at;
}

/** The same for a key nearer to the median: further ones move down. */
function rise(
  keys: Float64Array,
  slots: Int32Array,
  places: Int32Array,
  sign: number,
  from: number,
  key: number,
): number {
  let at = from;
  while (at > 1) {
    const next = at >> 1;
    const further = keys[next]!;
    if (further <= key) break;
    keys[at] = further;
    const moved = slots[next]!;
    slots[at] = moved;
    places[moved] = sign * at;
    at = next;
  }
  return at;
}
