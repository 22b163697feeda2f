import { compileLine } from '../line/compile.ts';
import { readerAtRest } from '../line/atRest.ts';
import type { LeftOver } from '../model/calibration.ts';
import type { LineSpec } from '../model/line.ts';
import type { PrepareContext } from '../stage/contract.ts';
import type { FitPoint } from './points.ts';

/** Bends of a reading from -1 to 1, in the order in which they are looked for: a bow between the ends, then powers. */
const BENDS: readonly ((z: number) => number)[] = [
  (z) => 1 - z * z,
  ...[0, 1, 3, 4, 5, 6, 7, 8].map((power) => (z: number) => z ** power),
];
/** How many of them are looked for beyond what the fit can follow. */
const DIRECTIONS = 2;
/** A column of which less than this share is new follows from those before it, but for rounding and noise. */
const LEAST_NEW = 1e-3;
/** The curve of what is left is told at so many places over the points. */
const PLACES = 33;

export interface FittedAt {
  /** The line with the constants as found. */
  lineWith(parameters: readonly number[]): LineSpec;
  readonly parameters: readonly number[];
  /** Typical size of a change of each constant. */
  readonly scales: readonly number[];
}

/**
 * How far the shape of a fit misses that of the sensor, over the range of its points: a bow, and one bend more, of those that
 * the fit cannot follow (at right angles to its own constants) are looked for in what it leaves over. Small where the fit is
 * held by its points, large where a bend goes past them. The error of a left-out point would be simpler, but it holds the error
 * of that point too, so that bands become two to five times too wide.
 * @param u standard uncertainty of each point, in the reading's unit
 * @returns a standard uncertainty in the reading's unit; null when the points leave nothing over that could tell
 * Coverage and width: docs/formulas.md, `npm run coverage`.
 */
export function shapeMisfit(
  fitted: FittedAt,
  context: PrepareContext,
  points: readonly FitPoint[],
  u: readonly number[],
): LeftOver | null {
  const raws = points.map((p) => p.raw);
  const [first, last] = [Math.min(...raws), Math.max(...raws)];
  const places = Array.from({ length: PLACES }, (_, i) => first + ((last - first) * i) / (PLACES - 1));
  const read = (parameters: readonly number[]) => {
    const readOf = readerAtRest(compileLine(fitted.lineWith(parameters), context));
    return [...raws, ...places].map(readOf);
  };
  /** Points in their own uncertainties, places in the reading's unit. */
  const column = (values: readonly number[]) => values.map((v, i) => v / (u[i] ?? 1));
  const n = points.length;
  const now = read(fitted.parameters);
  if (!now.every(Number.isFinite)) return null;
  const off = points.map((p, i) => (p.reference - now[i]!) / u[i]!);
  const basis: number[][] = [];
  fitted.parameters.forEach((value, k) => {
    const step = fitted.scales[k]! * 1e-4;
    const [up, down] = [step, -step].map((by) =>
      read(fitted.parameters.map((v, i) => (i === k ? value + by : v))),
    );
    addTo(basis, column(up!.map((v, i) => (v - down![i]!) / (2 * step))), n);
  });
  const followed = basis.length;
  const [low, high] = [Math.min(...now.slice(0, n)), Math.max(...now.slice(0, n))];
  /** How many standard deviations points show of the first new bend, one reading's unit high. */
  let visible = 0;
  for (const bend of BENDS) {
    if (basis.length >= followed + DIRECTIONS) break;
    const left = addTo(basis, column(now.map((v) => bend((2 * v - low - high) / (high - low || 1)))), n);
    visible ||= left;
  }
  const [bow, more] = basis.slice(followed);
  if (!bow) return null;
  const seen = Math.abs(dot(bow, off, n));
  const uPoint = Math.hypot(...u) / Math.sqrt(n);
  const bowed = Math.max(OF_SEEN * seen + OF_HIDDEN * visible * uPoint, beyondNoise(seen));
  const bent = more ? beyondNoise(dot(more, off, n)) : 0;
  const curve = places
    .map((_, i) => {
      const at = n + i;
      const uConstants = Math.hypot(...basis.slice(0, followed).map((b) => b[at]!));
      const share = believed((seen * Math.abs(bow[at]!)) / uConstants);
      return { reading: now[at]!, u: Math.hypot(share * bowed * bow[at]!, bent * (more?.[at] ?? 0)) };
    })
    .sort((a, b) => a.reading - b.reading)
    .filter(({ reading }, i, all) => i === 0 || reading > all[i - 1]!.reading);
  return { readings: curve.map((c) => c.reading), u: curve.map((c) => c.u) };
}

/** What is seen of a bow is its half-width at 95 %, of which this is the standard uncertainty. */
const OF_SEEN = 1 / 1.96;
/** And a bow of so many standard uncertainties of a point is allowed for, since noise may hide some of it. */
const OF_HIDDEN = 0.57;
/** A bow is believed from where it moves a reading by so many standard uncertainties of the constants there, and from where as a whole. */
const [BEGINS, WHOLE] = [0.5, 0.9];

/**
 * How much of a bow is believed, 0 to 1: as far as it goes past what the constants are allowed anyway. Elsewhere a band holds
 * without it, and would only get wider.
 * @param moved by how much it moves a reading, in standard uncertainties of the constants there
 */
const believed = (moved: number) =>
  Number.isNaN(moved) ? 0 : Math.min(1, Math.max(0, (moved - BEGINS) / (WHOLE - BEGINS)));

/**
 * Standard uncertainty to allow for a bend that is surely none of noise, from what is seen of it: all of a bend beside the bow,
 * which is less to be expected, and of a bow so large that it is no matter of 95 % any more.
 */
const beyondNoise = (seen: number) => Math.sqrt(Math.max(0, seen ** 2 - 8));

/**
 * Adds what is new in a column, at right angles to what is there; one that brings nothing new is ignored.
 * @param n how many of its rows are points: they alone tell what is new and how large it is
 * @returns how large what is new is at the points; 0 where there is none
 */
function addTo(basis: number[][], column: readonly number[], n: number): number {
  const size = Math.sqrt(dot(column, column, n));
  let rest = column.map((v) => v / size);
  // Twice, since once leaves rounding behind (Kahan and Parlett, in Parlett, The Symmetric Eigenvalue Problem, 6.9).
  for (let pass = 0; pass < 2; pass++)
    for (const b of basis) {
      const along = dot(b, rest, n);
      rest = rest.map((v, i) => v - along * b[i]!);
    }
  const left = Math.sqrt(dot(rest, rest, n));
  if (!(left > LEAST_NEW)) return 0;
  basis.push(rest.map((v) => v / left));
  return left * size;
}

function dot(a: readonly number[], b: readonly number[], n: number): number {
  let sum = 0;
  for (let i = 0; i < n; i++) sum += a[i]! * b[i]!;
  return sum;
}
