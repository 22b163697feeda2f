import { EigenvalueDecomposition, inverse, Matrix, pseudoInverse } from 'ml-matrix';
import { gaussNewton } from '../numerics/index.ts';
import { sphereCoverage, type SphereCoverage } from './sphereCoverage.ts';

type Triple = readonly [number, number, number];

export interface EllipsoidResult {
  /** For the three-axis correction stage: out = matrix (raw - offset), matrix symmetric, row by row. */
  readonly offset: number[];
  readonly matrix: number[];
  /** Standard uncertainties of the offset, from the scatter about the sphere. */
  readonly offsetSd: number[];
  /** Covariance of offset (3) and the six entries xx, yy, zz, xy, xz, yz of the matrix. */
  readonly covariance: number[][];
  /** Standard deviation of the corrected lengths about the field, in the field's unit. */
  readonly residualSd: number;
  readonly coverage: SphereCoverage;
  readonly converged: boolean;
  readonly reason: string;
}

/** Least share of the sphere that must be seen: below it the hidden side of the ellipsoid is a guess. */
const LEAST_COVERAGE = 0.7;

/**
 * Hard and soft iron from a cloud of magnetic vectors: offset and symmetric matrix that lay the cloud on a sphere.
 * An algebraic quadric (centred and scaled) gives the start; Gauss-Newton then makes the lengths |matrix (raw - offset)|
 * agree with the field in the least-squares sense, with their covariance. The turning that a cloud cannot tell is left out:
 * the matrix is the symmetric one.
 * @param points nine or more, turned through all directions
 * @param field size of the field in the unit wanted; the mean radius of the cloud when not given
 * @returns a result, or a sentence that says what is missing: too few points, a flat cloud, too little of the sphere
 * Source: Li and Griffiths, "Least squares ellipsoid specific fitting", GMP 2004; Renaudin, Afzal, Lachapelle, Journal of
 * Sensors 2010:967245, for the model.
 */
export function fitEllipsoid(points: readonly Triple[], field?: number): EllipsoidResult | string {
  const good = points.filter((p) => p.every(Number.isFinite));
  if (good.length < 20)
    return `At least 20 readings in all directions are needed; there are ${good.length}. Keep turning.`;
  if (field !== undefined && !(field > 0)) throw new RangeError(`Enter a field above 0; received ${field}.`);
  const start = quadric(good);
  if (!start) {
    const missing = cloudCoverage(good, null).missing.map((m) => m.name);
    return `The readings do not form a closed ellipsoid. Also turn the gadget so that these directions point north and down: ${list(missing)}.`;
  }
  const radius = field ?? start.radius;
  const symmetric = [0, 4, 8, 1, 2, 5].map((k) => start.shape[k]! * radius);
  const coverage = cloudCoverage(good, start);
  if (coverage.share < LEAST_COVERAGE) {
    return `Only ${Math.round(100 * coverage.share)} % of the sphere is covered; ${100 * LEAST_COVERAGE} % are needed. Missing directions: ${list(coverage.missing.map((m) => m.name))}.`;
  }
  const [rx, ry, rz] = spread(good);
  const found = gaussNewton({
    start: [...start.offset, ...symmetric],
    scale: [rx! * 0.01, ry! * 0.01, rz! * 0.01, ...Array<number>(6).fill(0.01 * Math.abs(symmetric[0]!))],
    residuals: (theta) => good.map((p) => radius - lengthOf(theta, p)),
  });
  const dof = good.length - 9;
  const variance = found.chiSquare / dof;
  const [ox, oy, oz, xx, yy, zz, xy, xz, yz] = found.parameters as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  const covariance = found.covariance.map((row) => row.map((v) => v * variance));
  return {
    offset: [ox, oy, oz],
    matrix: [xx, xy, xz, xy, yy, yz, xz, yz, zz],
    offsetSd: [0, 1, 2].map((k) => Math.sqrt(covariance[k]![k]!)),
    covariance,
    residualSd: Math.sqrt(variance),
    coverage,
    converged: found.converged,
    reason: found.reason,
  };
}

/** How much of the sphere a cloud covers, as the fit sees it: about its ellipsoid, or about its middle while it closes to none. */
export function cloudCoverage(
  points: readonly Triple[],
  start: ReturnType<typeof quadric> = points.length < 20 ? null : quadric(points),
): SphereCoverage {
  return start ? sphereCoverage(points, start.offset, start.shape) : sphereCoverage(points, middle(points));
}

function lengthOf(theta: readonly number[], p: Triple): number {
  const [a, b, c] = [p[0] - theta[0]!, p[1] - theta[1]!, p[2] - theta[2]!];
  return Math.hypot(
    theta[3]! * a + theta[6]! * b + theta[7]! * c,
    theta[6]! * a + theta[4]! * b + theta[8]! * c,
    theta[7]! * a + theta[8]! * b + theta[5]! * c,
  );
}

const middle = (points: readonly Triple[]) =>
  [0, 1, 2].map((k) => (Math.max(...points.map((p) => p[k]!)) + Math.min(...points.map((p) => p[k]!))) / 2);
const spread = (points: readonly Triple[]) =>
  [0, 1, 2].map((k) => Math.max(...points.map((p) => p[k]!)) - Math.min(...points.map((p) => p[k]!)) || 1);
const list = (names: readonly string[]) =>
  names.length > 6 ? `${names.slice(0, 6).join(', ')} and ${names.length - 6} more` : names.join(', ');

/** Least-squares quadric; null when it is no ellipsoid. Shape is the symmetric root that makes the cloud a unit sphere. */
function quadric(points: readonly Triple[]): { offset: number[]; shape: number[]; radius: number } | null {
  const centre = middle(points);
  const size = Math.max(...spread(points)) / 2;
  const rows = points.map((p) => p.map((v, k) => (v - centre[k]!) / size) as number[]);
  const design = new Matrix(
    rows.map(([x, y, z]) => [
      x! * x!,
      y! * y!,
      z! * z!,
      2 * x! * y!,
      2 * x! * z!,
      2 * y! * z!,
      2 * x!,
      2 * y!,
      2 * z!,
    ]),
  );
  const p = pseudoInverse(design, 1e-9)
    .mmul(Matrix.columnVector(rows.map(() => 1)))
    .to1DArray();
  const a = new Matrix([
    [p[0]!, p[3]!, p[4]!],
    [p[3]!, p[1]!, p[5]!],
    [p[4]!, p[5]!, p[2]!],
  ]);
  const v = Matrix.columnVector([p[6]!, p[7]!, p[8]!]);
  let c: Matrix;
  try {
    c = inverse(a).mmul(v).mul(-1);
  } catch {
    return null;
  }
  const level = 1 + c.transpose().mmul(a).mmul(c).get(0, 0);
  const eigen = new EigenvalueDecomposition(a.div(level), { assumeSymmetric: true });
  const values = eigen.realEigenvalues;
  // All semi-axes must be real and of a size with the cloud; a flat or half cloud gives a hyperboloid or a huge axis.
  if (!values.every((l) => l > 0.01 && l < 100)) return null;
  const vectors = eigen.eigenvectorMatrix;
  const shape = vectors
    .mmul(Matrix.diag(values.map((l) => Math.sqrt(l) / size)))
    .mmul(vectors.transpose())
    .to1DArray();
  const radius = size / values.reduce((product, l) => product * l, 1) ** (1 / 6);
  return { offset: c.to1DArray().map((o, k) => o * size + centre[k]!), shape, radius };
}
