const { min, max } = Math;

/**
 * Medians of windows of nine: two neighbours share eight samples, of which only the middle two matter, and each has one of
 * its own, which lies below, between or above them. The eight are two sorted fours, the four two sorted pairs, and all of
 * them serve again further on. No branch goes by a value, since nobody could foretell it.
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
    const l = min(p, q);
    const h = max(p, q);
    const inner = max(low, l);
    const outer = min(high, h);
    const c0 = min(low, l);
    const c1 = min(inner, outer);
    const c2 = max(inner, outer);
    const c3 = max(high, h);
    if (i >= 0) {
      const lower = max(max(min(a0, c3), min(a1, c2)), max(min(a2, c1), min(a3, c0)));
      const upper = min(min(max(a0, c3), max(a1, c2)), min(max(a2, c1), max(a3, c0)));
      out[i] = max(lower, min(upper, x[i]!));
      if (i + 1 < count) out[i + 1] = max(lower, min(upper, x[i + 9]!));
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
