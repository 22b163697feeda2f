/** One second-order section: y = b0 x + b1 x1 + b2 x2 - a1 y1 - a2 y2. A first-order section has b2 = a2 = 0. */
export interface Section {
  readonly b0: number;
  readonly b1: number;
  readonly b2: number;
  readonly a1: number;
  readonly a2: number;
}

/** A running filter on one column: sample by sample, or many at once with the very same result. */
export interface ColumnFilter {
  /** All that it remembers, as plain data. */
  readonly memory: object;
  next(x: number): number;
  /** Filters from[at..at+n) into to[at..at+n). */
  block(from: Float64Array, to: Float64Array, at: number, n: number): void;
  /** True when it may give NaN until it has enough readings. */
  readonly waits?: boolean;
}

/**
 * Runs second-order sections from rest, or as if the first sample had always been there.
 *
 * Two sections go through together, so that they overlap in the processor. Their numerators are scaled to begin with 1 and
 * the gain is applied to the input: a multiplication less a section. The transposed form II is turned so that a section's
 * feedback is one multiplication and one addition long: y = x + z1, z1' = (b1 - a1) x + z2 - a1 z1, z2' = (b2 - a2) x - a2 z1.
 * @throws {RangeError} for a section whose leading coefficient is 0
 */
export function sectionFilter(sections: readonly Section[], primed: boolean): ColumnFilter {
  const pairs: Float64Array[] = [];
  for (let i = 0; i < sections.length; i += 2) pairs.push(packPair(sections[i]!, sections[i + 1]));
  const memory = { started: !primed, states: pairs.map(() => new Float64Array(4)) };
  const one = new Float64Array(1);
  function block(from: Float64Array, to: Float64Array, at: number, n: number): void {
    const { states } = memory;
    if (n > 0 && !memory.started) {
      memory.started = true;
      primeStates(pairs, states, from[at]!);
    }
    if (pairs.length === 0) to.set(from.subarray(at, at + n), at);
    for (let i = 0; i < pairs.length; i++)
      runPair(i === 0 ? from : to, to, at, at + n, pairs[i]!, states[i]!);
  }
  return {
    memory,
    next(x) {
      one[0] = x;
      block(one, one, 0, 1);
      return one[0]!;
    },
    block,
  };
}

/** A section that lets everything through, beside an odd one. */
const NOTHING: Section = { b0: 1, b1: 0, b2: 0, a1: 0, a2: 0 };

/** Gain, then for each of two sections b1 - a1, b2 - a2, a1, a2 with the numerator scaled. */
function packPair(one: Section, two: Section = NOTHING): Float64Array {
  for (const s of [one, two]) {
    if (s.b0 === 0)
      throw new RangeError('The first coefficient of a filter section cannot be 0. Remove its delay.');
  }
  return Float64Array.from([
    one.b0 * two.b0,
    ...[one, two].flatMap((s) => [s.b1 / s.b0 - s.a1, s.b2 / s.b0 - s.a2, s.a1, s.a2]),
  ]);
}

/** Sets the states to those after an endless row of the same value. */
function primeStates(pairs: readonly Float64Array[], states: readonly Float64Array[], first: number): void {
  let x = first;
  pairs.forEach((k, i) => {
    x *= k[0]!;
    for (const [c, s] of [
      [1, 0],
      [5, 2],
    ] as const) {
      const [a1, a2] = [k[c + 2]!, k[c + 3]!];
      const [b1, b2] = [k[c]! + a1, k[c + 1]! + a2];
      const y = (x * (1 + b1 + b2)) / (1 + a1 + a2);
      states[i]![s] = y - x;
      states[i]![s + 1] = b2 * x - a2 * y;
      x = y;
    }
  });
}

function runPair(
  from: Float64Array,
  to: Float64Array,
  start: number,
  end: number,
  k: Float64Array,
  state: Float64Array,
): void {
  const gain = k[0]!;
  const c1 = k[1]!;
  const c2 = k[2]!;
  const a1 = k[3]!;
  const a2 = k[4]!;
  const e1 = k[5]!;
  const e2 = k[6]!;
  const f1 = k[7]!;
  const f2 = k[8]!;
  let z1 = state[0]!;
  let z2 = state[1]!;
  let w1 = state[2]!;
  let w2 = state[3]!;
  for (let n = start; n < end; n++) {
    const x = gain * from[n]!;
    const t = z1;
    const y = x + t;
    z1 = c1 * x + z2 - a1 * t;
    z2 = c2 * x - a2 * t;
    const u = w1;
    to[n] = y + u;
    w1 = e1 * y + w2 - f1 * u;
    w2 = e2 * y - f2 * u;
  }
  state[0] = z1;
  state[1] = z2;
  state[2] = w1;
  state[3] = w2;
}

export interface Complex {
  readonly re: number;
  readonly im: number;
}

/** Complex gain of sections at a frequency. */
export function sectionResponse(
  sections: readonly Section[],
  frequencyHz: number,
  sampleRateHz: number,
): Complex {
  const w = (2 * Math.PI * frequencyHz) / sampleRateHz;
  const [c1, s1, c2, s2] = [Math.cos(w), -Math.sin(w), Math.cos(2 * w), -Math.sin(2 * w)];
  let re = 1;
  let im = 0;
  for (const { b0, b1, b2, a1, a2 } of sections) {
    const top = { re: b0 + b1 * c1 + b2 * c2, im: b1 * s1 + b2 * s2 };
    const bottom = { re: 1 + a1 * c1 + a2 * c2, im: a1 * s1 + a2 * s2 };
    const size = bottom.re ** 2 + bottom.im ** 2;
    const h = {
      re: (top.re * bottom.re + top.im * bottom.im) / size,
      im: (top.im * bottom.re - top.re * bottom.im) / size,
    };
    [re, im] = [re * h.re - im * h.im, re * h.im + im * h.re];
  }
  return { re, im };
}

/** Whole-column filtering. @param primed start as if the first sample had always been there */
export function filterSections(sections: readonly Section[], x: Float64Array, primed: boolean): Float64Array {
  const out = new Float64Array(x.length);
  sectionFilter(sections, primed).block(x, out, 0, x.length);
  return out;
}

/**
 * Forward and backward: no delay, the magnitude twice. For recordings only; a gadget cannot look ahead.
 * The ends are extended by the odd mirror image over 3 (2 sections + 1, less first-order ones) samples.
 * Source: Gustafsson, IEEE Trans. Signal Processing 44 (1996) 988, for the problem; the extension is the customary one.
 * @throws {RangeError} when the column is not longer than the extension
 */
export function zeroPhaseSections(sections: readonly Section[], x: Float64Array): Float64Array {
  const firstOrder = Math.min(
    sections.filter((s) => s.b2 === 0).length,
    sections.filter((s) => s.a2 === 0).length,
  );
  const edge = 3 * (2 * sections.length + 1 - firstOrder);
  const n = x.length;
  if (n <= edge)
    throw new RangeError(
      `Zero-delay filtering needs more than ${edge} samples; received ${n}. Record longer, or use the filter with delay.`,
    );
  const extended = new Float64Array(n + 2 * edge);
  extended.set(x, edge);
  for (let i = 0; i < edge; i++) {
    extended[i] = 2 * x[0]! - x[edge - i]!;
    extended[n + edge + i] = 2 * x[n - 1]! - x[n - 2 - i]!;
  }
  const forward = filterSections(sections, extended, true).reverse();
  return filterSections(sections, forward, true)
    .reverse()
    .slice(edge, edge + n);
}
