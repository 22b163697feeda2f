import { inverse, Matrix } from 'ml-matrix';
import { widening } from './widening.ts';

export interface RestsCovariance {
  /** Of offset (3) and matrix (9) of out = matrix (raw - offset). */
  readonly covariance: number[][];
  /** Standard deviation of how far sides lie off level, in radians; 0 where nothing shows it. */
  readonly tilt: number;
  /** How much more the rests leave over than their own uncertainties explain, 1 or more. */
  readonly birge: number;
  /** Degrees of freedom of the whole (Welch-Satterthwaite). */
  readonly degreesOfFreedom: number;
}

/** Six sides give each axis four readings across gravity for two constants: two left over, on three axes. */
const TILT_DOF = 6;

/**
 * Covariance of offset and matrix from rests on six sides, fitted by plain least squares. A side that lies off level gives
 * the two axes across gravity a part of it, the same each time it is laid down, and the axis along gravity next to nothing:
 * lengths hardly notice, so it is looked for in what each axis leaves over.
 * @param matrix nine, row by row @param truth gravity at each rest, along one axis
 * @param raw means of three axes @param u standard uncertainty of each raw component @param side index of each rest's side
 * First order (JCGM 100:2008, 5.1.2).
 */
export function restsCovariance(
  matrix: readonly number[],
  truth: readonly (readonly number[])[],
  raw: readonly (readonly number[])[],
  u: readonly number[],
  side: readonly number[],
): RestsCovariance {
  const n = truth.length;
  const design = new Matrix(truth.map((g) => [...g, 1]));
  const fit = inverse(design.transpose().mmul(design)).mmul(design.transpose());
  const left = Matrix.eye(n).sub(design.mmul(fit));
  const gravity = Math.max(...truth[0]!.map(Math.abs));
  const shaken = widening(betweenRepeats(raw, u, side), Math.max(0, 3 * (n - 6)));
  const ownDof = shaken.factor > 1 ? shaken.degreesOfFreedom : Infinity;
  const own = Matrix.diag(u.map((v) => (v * shaken.factor) ** 2));
  const scale = inverse(
    new Matrix([matrix.slice(0, 3), matrix.slice(3, 6), matrix.slice(6, 9)] as number[][]),
  );
  const axes = [0, 1, 2].map((axis) => {
    const rest = left.mmul(Matrix.columnVector(raw.map((r) => r[axis]!)));
    const across = new Matrix(
      side.map((a) =>
        side.map((b) => (a === b && a >> 1 !== axis ? (gravity * scale.get(axis, axis)) ** 2 : 0)),
      ),
    );
    const size = (gravity * scale.get(axis, axis)) ** 2;
    return {
      across,
      found: rest.dot(rest) / size,
      byOwn: left.mmul(own).trace() / size,
      byTilt: left.mmul(across).trace() / size,
    };
  });
  const sum = (of: (axis: (typeof axes)[number]) => number) => axes.reduce((s, axis) => s + of(axis), 0);
  const byOwn = sum((a) => a.byOwn);
  const tilt2 = Math.max(0, (sum((a) => a.found) - byOwn) / sum((a) => a.byTilt));
  const share = (tilt2 * sum((a) => a.byTilt)) / (byOwn + tilt2 * sum((a) => a.byTilt));
  const constants = Matrix.zeros(12, 12);
  axes.forEach(({ across }, axis) => {
    const variance = fit.mmul(Matrix.add(own, Matrix.mul(across, tilt2))).mmul(fit.transpose());
    for (let a = 0; a < 4; a++)
      for (let b = 0; b < 4; b++) constants.set(4 * axis + a, 4 * axis + b, variance.get(a, b));
  });
  const jacobian = turnedRound(matrix);
  return {
    covariance: jacobian.mmul(constants).mmul(jacobian.transpose()).to2DArray(),
    tilt: Math.sqrt(tilt2),
    birge: Math.max(shaken.factor, share < 1 ? 1 / Math.sqrt(1 - share) : 1),
    degreesOfFreedom: 1 / (share ** 2 / TILT_DOF + (1 - share) ** 2 / ownDof),
  };
}

/** Sum over sides of (mean less the side's own mean)^2 / u^2, all three axes. */
function betweenRepeats(raw: readonly (readonly number[])[], u: readonly number[], side: readonly number[]) {
  let chiSquare = 0;
  for (const k of new Set(side)) {
    const rests = raw.map((_, i) => i).filter((i) => side[i] === k);
    for (let axis = 0; axis < 3; axis++) {
      const mean = rests.reduce((s, i) => s + raw[i]![axis]!, 0) / rests.length;
      for (const i of rests) chiSquare += ((raw[i]![axis]! - mean) / u[i]!) ** 2;
    }
  }
  return chiSquare;
}

/**
 * From the constants of raw = scale truth + offset, axis by axis, to those of truth = matrix (raw - offset):
 * d matrix = -matrix (d scale) matrix, entry (r, c) by entry (a, b): -m[r][a] m[b][c].
 */
function turnedRound(matrix: readonly number[]): Matrix {
  const m = (row: number, column: number) => matrix[3 * row + column]!;
  const jacobian = Matrix.zeros(12, 12);
  for (let axis = 0; axis < 3; axis++) {
    jacobian.set(axis, 4 * axis + 3, 1);
    for (let b = 0; b < 3; b++)
      for (let r = 0; r < 3; r++)
        for (let c = 0; c < 3; c++) jacobian.set(3 + 3 * r + c, 4 * axis + b, -m(r, axis) * m(b, c));
  }
  return jacobian;
}
