import { inverse, Matrix } from 'ml-matrix';

/**
 * Covariance of offset (3) and matrix (9) of out = matrix (raw - offset) when the raw means carry independent standard
 * uncertainties and the truth is exact: first order, through d out = matrix d raw.
 * @param truth corrected vectors at the points @param u standard uncertainty of each raw component
 */
export function vectorCovariance(
  matrix: readonly number[],
  truth: readonly (readonly number[])[],
  u: readonly number[],
): number[][] {
  const m = new Matrix([matrix.slice(0, 3), matrix.slice(3, 6), matrix.slice(6, 9)] as number[][]);
  // raw = scale truth + offset is linear in its twelve constants, axis by axis with the same design.
  const design = new Matrix(truth.map((g, i) => [...g, 1].map((v) => v / u[i]!)));
  const normal = inverse(design.transpose().mmul(design));
  // d matrix = -matrix (d scale) matrix, entry (r, c) by entry (a, b): -m[r][a] m[b][c].
  const jacobian = Matrix.zeros(12, 12);
  for (let axis = 0; axis < 3; axis++) {
    jacobian.set(axis, 4 * axis + 3, 1);
    for (let b = 0; b < 3; b++)
      for (let r = 0; r < 3; r++)
        for (let c = 0; c < 3; c++) jacobian.set(3 + 3 * r + c, 4 * axis + b, -m.get(r, axis) * m.get(b, c));
  }
  const own = Matrix.zeros(12, 12);
  for (let axis = 0; axis < 3; axis++)
    for (let a = 0; a < 4; a++)
      for (let b = 0; b < 4; b++) own.set(4 * axis + a, 4 * axis + b, normal.get(a, b));
  return jacobian.mmul(own).mmul(jacobian.transpose()).to2DArray();
}
