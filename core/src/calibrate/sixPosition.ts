import { inverse, Matrix, QrDecomposition } from 'ml-matrix';
import { restsCovariance, type RestsCovariance } from './restsCovariance.ts';

type Triple = readonly [number, number, number];

export interface Rest {
  /** Mean raw reading of the three axes at rest. */
  readonly raw: Triple;
  /** Standard uncertainty of each axis' mean; 1 for all when not known. */
  readonly u?: number;
}

export interface AxesResult {
  /** For the three-axis correction stage: out = matrix (raw - offset), row by row. */
  readonly offset: number[];
  readonly matrix: number[];
  /** Covariance of offset then matrix, twelve by twelve, with what shows of sides that lie off level. */
  readonly spread: RestsCovariance;
  /** Length of the corrected vector less gravity at each rest. */
  readonly residuals: number[];
  /** Which way was up at each rest, recognised from the data. */
  readonly sides: string[];
  readonly converged: boolean;
  readonly reason: string;
}

const SIDES = ['+x up', '−x up', '+y up', '−y up', '+z up', '−z up'] as const;

/**
 * Offset and matrix of an accelerometer from rests in six positions against gravity: raw = scale g + bias by least squares,
 * turned round. Which side was up is recognised from the data: the axis that stands out from the middle of all rests.
 * @param rests six or more, each side at least once, in any order
 * @param gravity size of gravity in the unit wanted, 1 for g
 * @returns a result, or a sentence that names the sides that are missing
 * Source: IEEE Std 1293-2018, 6.3 (multi-position test), with cross-axis terms.
 */
export function fitSixPosition(rests: readonly Rest[], gravity: number): AxesResult | string {
  if (!(gravity > 0))
    throw new RangeError(`Enter a value of gravity above 0; received ${gravity}. Use 1 for results in g.`);
  if (rests.some((r) => !r.raw.every(Number.isFinite)))
    return 'A position has an invalid reading. Capture it again.';
  const found = recognise(rests);
  const missing = SIDES.filter((_, k) => !found.includes(k));
  if (missing.length > 0)
    return `Needs a position with ${missing.join(', ')}. Place the gadget on each of its six sides.`;
  const truth = found.map((k) => {
    const g = [0, 0, 0];
    g[k >> 1] = k % 2 === 0 ? gravity : -gravity;
    return g;
  });
  const design = new Matrix(truth.map((g) => [...g, 1]));
  const target = new Matrix(rests.map((r) => [...r.raw]));
  const solution = new QrDecomposition(design).solve(target);
  const scale = solution.subMatrix(0, 2, 0, 2).transpose();
  const bias = solution.getRow(3);
  const back = inverse(scale);
  const matrix = back.to1DArray();
  const corrected = rests.map((r) =>
    back.mmul(Matrix.columnVector(r.raw.map((v, i) => v - bias[i]!))).to1DArray(),
  );
  const u = rests.map((r) => r.u ?? 1);
  return {
    offset: bias,
    matrix,
    spread: restsCovariance(
      matrix,
      truth,
      rests.map((r) => r.raw),
      u,
      found,
    ),
    residuals: corrected.map((v) => Math.hypot(...v) - gravity),
    sides: found.map((k) => SIDES[k]!),
    converged: true,
    reason: 'least squares',
  };
}

/** For each rest the index of its side. */
function recognise(rests: readonly Rest[]): number[] {
  const middle = [0, 1, 2].map((k) => {
    const column = rests.map((r) => r.raw[k]!);
    return (Math.max(...column) + Math.min(...column)) / 2;
  });
  const half = [0, 1, 2].map((k) => Math.max(...rests.map((r) => Math.abs(r.raw[k]! - middle[k]!))) || 1);
  return rests.map((r) => {
    // Axes may have scales of their own: each is measured against its own span.
    const shares = r.raw.map((v, k) => (v - middle[k]!) / half[k]!);
    const sizes = shares.map(Math.abs);
    const axis = sizes.indexOf(Math.max(...sizes));
    return 2 * axis + (shares[axis]! < 0 ? 1 : 0);
  });
}
