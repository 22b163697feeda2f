import { compileLine } from '../line/compile.ts';
import { readingAtRest } from '../line/atRest.ts';
import type { LineSpec } from '../model/line.ts';
import type { PrepareContext } from '../stage/contract.ts';
import type { FitPoint } from './points.ts';

/** How many bends beyond what the fit can follow are looked for: one way, and there and back. */
const DIRECTIONS = 2;
const HIGHEST_DEGREE = 8;
/** A column of which less than this share is new follows from those before it, but for rounding and noise. */
const LEAST_NEW = 1e-3;

export interface FittedAt {
  /** The line with the constants as found. */
  lineWith(parameters: readonly number[]): LineSpec;
  readonly parameters: readonly number[];
  /** Typical size of a change of each constant. */
  readonly scales: readonly number[];
}

/**
 * How far the shape of a fit misses that of the sensor, as a standard uncertainty in the reading's unit: the bends that the
 * fit cannot follow (the lowest two polynomials of the reading at right angles to its own constants) are looked for in what
 * it leaves over, and what is found beyond the points' own uncertainties is spread over the points. The error of a left-out
 * point would be simpler, but it holds the error of that point too, so that bands become two to five times too wide.
 * @param u standard uncertainty of each point, in the reading's unit
 * @returns null when the points leave nothing over that could tell
 * Coverage and width: docs/formulas.md, `npm run coverage`.
 */
export function shapeMisfit(
  fitted: FittedAt,
  context: PrepareContext,
  points: readonly FitPoint[],
  u: readonly number[],
): number | null {
  const read = (parameters: readonly number[]) => {
    const line = compileLine(fitted.lineWith(parameters), context);
    return points.map((p) => readingAtRest(line, p.raw));
  };
  const now = read(fitted.parameters);
  const leftOver = points.map((p, i) => (p.reference - now[i]!) / u[i]!);
  if (!leftOver.every(Number.isFinite)) return null;
  const own = fitted.parameters.map((value, k) => {
    const step = fitted.scales[k]! * 1e-4;
    const [up, down] = [step, -step].map((by) =>
      read(fitted.parameters.map((v, i) => (i === k ? value + by : v))),
    );
    return up!.map((v, i) => (v - down![i]!) / (2 * step * u[i]!));
  });
  const basis: number[][] = [];
  for (const column of own) addTo(basis, column);
  const followed = basis.length;
  const [low, high] = [Math.min(...now), Math.max(...now)];
  for (let degree = 0; degree <= HIGHEST_DEGREE && basis.length < followed + DIRECTIONS; degree++) {
    addTo(
      basis,
      now.map((v, i) => ((2 * v - low - high) / (high - low || 1)) ** degree / u[i]!),
    );
  }
  const bends = basis.slice(followed);
  if (bends.length === 0) return null;
  const found = bends.map((bend) => dot(bend, leftOver));
  const seen = found.reduce((s, z) => s + z * z, 0);
  // Each would be 1 from the points' own uncertainties alone.
  const beyond = Math.max(0, 1 - bends.length / seen);
  const meanSquare =
    points.reduce((s, _, i) => s + bends.reduce((b, q, k) => b + (q[i]! * found[k]! * u[i]!) ** 2, 0), 0) /
    points.length;
  return Math.sqrt(beyond * meanSquare);
}

/** Adds what is new in a column, at right angles to what is there; one that brings nothing new is ignored. */
function addTo(basis: number[][], column: readonly number[]): void {
  const size = Math.sqrt(dot(column, column));
  let rest = column.map((v) => v / size);
  // Twice, since once leaves rounding behind (Kahan and Parlett, in Parlett, The Symmetric Eigenvalue Problem, 6.9).
  for (let pass = 0; pass < 2; pass++)
    for (const b of basis) {
      const along = dot(b, rest);
      rest = rest.map((v, i) => v - along * b[i]!);
    }
  const left = Math.sqrt(dot(rest, rest));
  if (left > LEAST_NEW) basis.push(rest.map((v) => v / left));
}

const dot = (a: readonly number[], b: readonly number[]) => a.reduce((s, v, i) => s + v * b[i]!, 0);
