import { Matrix, QrDecomposition } from 'ml-matrix';
import { studentTQuantile } from './quantiles.ts';

export interface PolynomialFit {
  /** Coefficients in rising powers. */
  readonly coefficients: number[];
  readonly covariance: number[][];
  readonly residuals: number[];
  /** Residual standard deviation with n - p degrees of freedom (weighted when weights are given). */
  readonly residualSd: number;
  readonly degreesOfFreedom: number;
  /** `leverage`: the variance of the curve there, in residual variances. */
  predict(x: number): { value: number; leverage: number; confidence95: number; prediction95: number };
}

/**
 * Ordinary or weighted polynomial least squares, with the covariance scaled by the residual variance.
 * @param x n abscissae
 * @param y n ordinates
 * @param degree 0 to 6
 * @param weights n positive numbers, 1 / variance up to a common factor
 * @throws {RangeError} on unequal lengths, non-finite values, or fewer than degree + 1 distinct abscissae
 *
 * QR on a centred and scaled abscissa: the normal equations would square the condition number.
 */
export function fitPolynomial(
  x: readonly number[],
  y: readonly number[],
  degree: number,
  weights?: readonly number[],
): PolynomialFit {
  const n = x.length;
  const p = degree + 1;
  if (y.length !== n || (weights && weights.length !== n)) {
    throw new RangeError(
      `A fit needs the same number of x and y values${weights ? ' and weights' : ''}; received ${n} x, ${y.length} y${weights ? `, ${weights.length} weights` : ''}.`,
    );
  }
  const distinct = new Set(x).size;
  if (distinct < p) {
    throw new RangeError(
      `A polynomial of degree ${degree} needs at least ${p} points at different x; received ${distinct}. Add points or lower the degree.`,
    );
  }
  const centre = x.reduce((a, b) => a + b, 0) / n;
  const scale = Math.max(...x.map((v) => Math.abs(v - centre))) || 1;
  const root = Array.from({ length: n }, (_, i) => Math.sqrt(weights?.[i] ?? 1));
  const row = (v: number) => Array.from({ length: p }, (_, k) => ((v - centre) / scale) ** k);
  const design = new Matrix(x.map((v, i) => row(v).map((e) => e * root[i]!)));
  const target = Matrix.columnVector(y.map((v, i) => v * root[i]!));
  if (![...x, ...y, ...root].every(Number.isFinite)) {
    throw new RangeError(
      'A fit needs finite x and y values and positive weights. Correct or remove the invalid points.',
    );
  }
  const qr = new QrDecomposition(design);
  const scaled = qr.solve(target).to1DArray();
  const inverseR = qr.upperTriangularMatrix.subMatrix(0, p - 1, 0, p - 1);
  const rInverse = new QrDecomposition(inverseR).solve(Matrix.eye(p));
  const unscaledCovariance = rInverse.mmul(rInverse.transpose());
  const fitted = (v: number) => row(v).reduce((sum, e, k) => sum + e * scaled[k]!, 0);
  const residuals = y.map((v, i) => v - fitted(x[i]!));
  const dof = n - p;
  const residualVariance =
    dof > 0 ? residuals.reduce((s, r, i) => s + (r * root[i]!) ** 2, 0) / dof : Number.NaN;
  const back = expansion(p, centre, scale);
  const covariance = back.mmul(unscaledCovariance).mmul(back.transpose()).mul(residualVariance);
  return {
    coefficients: back.mmul(Matrix.columnVector(scaled)).to1DArray(),
    covariance: covariance.to2DArray(),
    residuals,
    residualSd: Math.sqrt(residualVariance),
    degreesOfFreedom: dof,
    predict(at) {
      const e = Matrix.rowVector(row(at));
      const leverage = e.mmul(unscaledCovariance).mmul(e.transpose()).get(0, 0);
      const t = dof > 0 ? studentTQuantile(0.975, dof) : Number.NaN;
      return {
        value: fitted(at),
        leverage,
        confidence95: t * Math.sqrt(residualVariance * leverage),
        prediction95: t * Math.sqrt(residualVariance * (1 + leverage)),
      };
    },
  };
}

/** Matrix that turns coefficients of ((x - centre) / scale)^k into coefficients of x^j, by the binomial theorem. */
function expansion(p: number, centre: number, scale: number): Matrix {
  const m = Matrix.zeros(p, p);
  for (let k = 0; k < p; k++) {
    let binomial = 1;
    for (let j = k; j >= 0; j--) {
      m.set(j, k, (binomial * (-centre) ** (k - j)) / scale ** k);
      binomial = (binomial * j) / (k - j + 1);
    }
  }
  return m;
}
