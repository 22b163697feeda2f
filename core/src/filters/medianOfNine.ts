/**
 * Medians of windows of nine: two neighbours share eight samples, of which only the middle two matter, and each has one of
 * its own, which lies below, between or above them. The eight are two sorted fours, the four two sorted pairs, and all of
 * them serve again further on. Two choices by one comparison take less time than a smaller and a larger one.
 * Source: Batcher, "Sorting networks and their applications", AFIPS Spring Joint Computer Conference 32 (1968) 307-314.
 * @param x at least nine values without NaN @param out receives x.length - 8 medians
 */
export function medianOfNine(x: Float64Array, out: Float64Array): void {
  const count = x.length - 8;
  // The pair before the next, and the fours that begin four and two samples before that of the next. Each is a variable of
  // its own: lists of them would be made anew with every step.
  let low = 0;
  let high = 0;
  let a0 = 0;
  let a1 = 0;
  let a2 = 0;
  let a3 = 0;
  let b0 = 0;
  let b1 = 0;
  let b2 = 0;
  let b3 = 0;
  for (let i = -6; i < count; i += 2) {
    const p = x[i + 7]!;
    const q = x[i + 8]!;
    const l = p < q ? p : q;
    const h = p < q ? q : p;
    const c0 = low < l ? low : l;
    const inner = low < l ? l : low;
    const outer = high < h ? high : h;
    const c3 = high < h ? h : high;
    const c1 = inner < outer ? inner : outer;
    const c2 = inner < outer ? outer : inner;
    if (i >= 0) {
      // Of the two fours the fourth and the fifth: the largest of the lower ones, crosswise, and the smallest of the upper.
      const l0 = a0 < c3 ? a0 : c3;
      const h0 = a0 < c3 ? c3 : a0;
      const l1 = a1 < c2 ? a1 : c2;
      const h1 = a1 < c2 ? c2 : a1;
      const l2 = a2 < c1 ? a2 : c1;
      const h2 = a2 < c1 ? c1 : a2;
      const l3 = a3 < c0 ? a3 : c0;
      const h3 = a3 < c0 ? c0 : a3;
      const l01 = l0 < l1 ? l1 : l0;
      const l23 = l2 < l3 ? l3 : l2;
      const lower = l01 < l23 ? l23 : l01;
      const h01 = h0 < h1 ? h0 : h1;
      const h23 = h2 < h3 ? h2 : h3;
      const upper = h01 < h23 ? h01 : h23;
      out[i] = between(lower, x[i]!, upper);
      if (i + 1 < count) out[i + 1] = between(lower, x[i + 9]!, upper);
    }
    low = l;
    high = h;
    a0 = b0;
    a1 = b1;
    a2 = b2;
    a3 = b3;
    b0 = c0;
    b1 = c1;
    b2 = c2;
    b3 = c3;
  }
}

function between(lower: number, value: number, upper: number): number {
  if (value < lower) return lower;
  return value < upper ? value : upper;
}
