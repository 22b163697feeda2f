import { lowerBound } from './lowerBound.ts';

export const INTERPOLANTS = ['linear', 'pchip', 'natural-cubic', 'not-a-knot-cubic', 'lagrange'] as const;
export type InterpolantKind = (typeof INTERPOLANTS)[number];

/** A curve through points. Outside them it goes on with the outermost piece; the caller decides whether that is allowed. */
export interface Interpolant {
  at(x: number): number;
  derivative(x: number): number;
}

/**
 * A curve through n points.
 * @param x n strictly rising abscissae, n >= 2
 * @param y n ordinates
 * - linear: straight pieces.
 * - pchip: shape-preserving cubic; never overshoots the points (Fritsch and Butland, SIAM J. Sci. Stat. Comput. 5 (1984) 300).
 * - natural-cubic, not-a-knot-cubic: splines with continuous second derivative (de Boor, A Practical Guide to Splines, IV).
 * - lagrange: the one polynomial through all points, in barycentric form (Berrut and Trefethen, SIAM Review 46 (2004) 501);
 *   swings wildly between more than a handful of points.
 * @throws {RangeError} on unequal lengths, fewer than two points, non-finite values, or abscissae that do not rise
 */
export function interpolant(kind: InterpolantKind, x: readonly number[], y: readonly number[]): Interpolant {
  if (x.length !== y.length)
    throw new RangeError(
      `The number of x and y values must be equal; received ${x.length} x and ${y.length} y.`,
    );
  if (x.length < 2) throw new RangeError(`A curve needs at least 2 points; received ${x.length}.`);
  x.forEach((v, i) => {
    if (!Number.isFinite(v) || !Number.isFinite(y[i]))
      throw new RangeError(
        `Point ${i + 1} of the curve is not a valid number (${v}, ${y[i]}). Correct or remove it.`,
      );
    if (i > 0 && !(v > x[i - 1]!))
      throw new RangeError(
        `The x values of a curve must increase: point ${i + 1} has ${v} after ${x[i - 1]}. Sort the points and merge equal ones.`,
      );
  });
  if (kind === 'lagrange') return lagrange(x, y);
  const slopes = kind === 'linear' || x.length === 2 ? null : slopesFor(kind, x, y);
  return slopes ? hermite(x, y, slopes) : straight(x, y);
}

function slopesFor(kind: InterpolantKind, x: readonly number[], y: readonly number[]): number[] {
  if (kind === 'pchip') return pchipSlopes(x, y);
  return splineSlopes(x, y, kind === 'natural-cubic');
}

/** Index of the piece that x lies in. */
const pieceOf = (x: readonly number[], v: number) =>
  Math.min(x.length - 2, Math.max(0, lowerBound(x, v) - 1));

function straight(x: readonly number[], y: readonly number[]): Interpolant {
  const slope = (i: number) => (y[i + 1]! - y[i]!) / (x[i + 1]! - x[i]!);
  return {
    at(v) {
      const i = pieceOf(x, v);
      return v === x[i + 1] ? y[i + 1]! : y[i]! + slope(i) * (v - x[i]!);
    },
    derivative: (v) => slope(pieceOf(x, v)),
  };
}

function hermite(x: readonly number[], y: readonly number[], d: readonly number[]): Interpolant {
  const pieces = x.slice(0, -1).map((_, i) => {
    const h = x[i + 1]! - x[i]!;
    const m = (y[i + 1]! - y[i]!) / h;
    return { c2: (3 * m - 2 * d[i]! - d[i + 1]!) / h, c3: (d[i]! + d[i + 1]! - 2 * m) / (h * h) };
  });
  return {
    at(v) {
      const i = pieceOf(x, v);
      const t = v - x[i]!;
      if (v === x[i + 1]) return y[i + 1]!;
      return y[i]! + t * (d[i]! + t * (pieces[i]!.c2 + t * pieces[i]!.c3));
    },
    derivative(v) {
      const i = pieceOf(x, v);
      const t = v - x[i]!;
      return d[i]! + t * (2 * pieces[i]!.c2 + t * 3 * pieces[i]!.c3);
    },
  };
}

function pchipSlopes(x: readonly number[], y: readonly number[]): number[] {
  const n = x.length;
  const h = x.slice(0, -1).map((v, i) => x[i + 1]! - v);
  const m = h.map((step, i) => (y[i + 1]! - y[i]!) / step);
  const inner = (k: number) => {
    const [a, b] = [m[k - 1]!, m[k]!];
    if (a * b <= 0) return 0;
    const w1 = 2 * h[k]! + h[k - 1]!;
    const w2 = h[k]! + 2 * h[k - 1]!;
    return (w1 + w2) / (w1 / a + w2 / b);
  };
  // One-sided three-point slope at an end, kept from overshooting.
  const end = (h0: number, h1: number, m0: number, m1: number) => {
    const d = ((2 * h0 + h1) * m0 - h0 * m1) / (h0 + h1);
    if (Math.sign(d) !== Math.sign(m0)) return 0;
    return Math.sign(m0) !== Math.sign(m1) && Math.abs(d) > 3 * Math.abs(m0) ? 3 * m0 : d;
  };
  return x.map((_, k) => {
    if (k === 0) return end(h[0]!, h[1]!, m[0]!, m[1]!);
    if (k === n - 1) return end(h[n - 2]!, h[n - 3]!, m[n - 2]!, m[n - 3]!);
    return inner(k);
  });
}

/** First derivatives of the spline at its points: a tridiagonal system, solved by elimination. */
function splineSlopes(x: readonly number[], y: readonly number[], natural: boolean): number[] {
  const n = x.length;
  const h = x.slice(0, -1).map((v, i) => x[i + 1]! - v);
  const m = h.map((step, i) => (y[i + 1]! - y[i]!) / step);
  const lower = Array<number>(n).fill(0);
  const main = Array<number>(n).fill(0);
  const upper = Array<number>(n).fill(0);
  const right = Array<number>(n).fill(0);
  for (let i = 1; i < n - 1; i++) {
    lower[i] = h[i]!;
    main[i] = 2 * (h[i - 1]! + h[i]!);
    upper[i] = h[i - 1]!;
    right[i] = 3 * (h[i]! * m[i - 1]! + h[i - 1]! * m[i]!);
  }
  if (natural) {
    [main[0], upper[0], right[0]] = [2, 1, 3 * m[0]!];
    [main[n - 1], lower[n - 1], right[n - 1]] = [2, 1, 3 * m[n - 2]!];
  } else if (n === 3) {
    // Three points: not-a-knot at both ends is the parabola through them.
    const bend = (m[1]! - m[0]!) / (h[0]! + h[1]!);
    return [m[0]! - bend * h[0]!, m[0]! + bend * h[0]!, m[1]! + bend * h[1]!];
  } else {
    const a = h[0]! + h[1]!;
    [main[0], upper[0]] = [h[1]!, a];
    right[0] = ((h[0]! + 2 * a) * h[1]! * m[0]! + h[0]! ** 2 * m[1]!) / a;
    const b = h[n - 2]! + h[n - 3]!;
    [main[n - 1], lower[n - 1]] = [h[n - 3]!, b];
    right[n - 1] = (h[n - 2]! ** 2 * m[n - 3]! + (2 * b + h[n - 2]!) * h[n - 3]! * m[n - 2]!) / b;
  }
  for (let i = 1; i < n; i++) {
    const w = lower[i]! / main[i - 1]!;
    main[i]! -= w * upper[i - 1]!;
    right[i]! -= w * right[i - 1]!;
  }
  const d = Array<number>(n);
  for (let i = n - 1; i >= 0; i--) d[i] = (right[i]! - (i < n - 1 ? upper[i]! * d[i + 1]! : 0)) / main[i]!;
  return d;
}

function lagrange(x: readonly number[], y: readonly number[]): Interpolant {
  // Differences scaled by a quarter of the span keep the weights of many points from over- or underflowing.
  const scale = 4 / (x.at(-1)! - x[0]!);
  const weights = x.map((xi, i) => 1 / x.reduce((p, xj, j) => (j === i ? p : p * (xi - xj) * scale), 1));
  const at = (v: number) => {
    let top = 0;
    let bottom = 0;
    for (let i = 0; i < x.length; i++) {
      if (v === x[i]) return y[i]!;
      const w = weights[i]! / (v - x[i]!);
      top += w * y[i]!;
      bottom += w;
    }
    return top / bottom;
  };
  const h = (x.at(-1)! - x[0]!) * 1e-5;
  return { at, derivative: (v) => (at(v + h) - at(v - h)) / (2 * h) };
}
