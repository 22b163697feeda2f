import { Matrix, QrDecomposition } from 'ml-matrix';

export interface GaussNewtonProblem {
  /** Starting values. */
  readonly start: readonly number[];
  /** Typical size of each parameter; steps and conditioning are relative to it. */
  readonly scale: readonly number[];
  /** Weighted residuals (observed - model) / standard uncertainty at these parameters. */
  residuals(parameters: readonly number[]): number[];
}

export interface GaussNewtonResult {
  readonly parameters: number[];
  /** Inverse of the normal matrix: the covariance when the weights are true standard uncertainties. */
  readonly covariance: number[][];
  readonly chiSquare: number;
  readonly converged: boolean;
  readonly iterations: number;
  readonly reason: string;
}

const MAX_ITERATIONS = 60;

/**
 * Damped Gauss-Newton least squares with a central-difference Jacobian and QR steps.
 * A fit that does not converge is a result that says so, never an exception.
 * Source: Nocedal and Wright, Numerical Optimization, 2nd edition, 10.3.
 */
export function gaussNewton(problem: GaussNewtonProblem): GaussNewtonResult {
  let theta = [...problem.start];
  let residuals = problem.residuals(theta);
  let chiSquare = sumOfSquares(residuals);
  let reason = `did not converge in ${MAX_ITERATIONS} steps`;
  let converged = false;
  let iterations = 0;
  if (!Number.isFinite(chiSquare)) {
    return failed(theta, 'the line gives no reading at one of the points with the starting values');
  }
  while (iterations < MAX_ITERATIONS && !converged) {
    iterations++;
    const jacobian = centralJacobian(problem, theta);
    if (!jacobian) return failed(theta, 'the line gives no reading near the present constants');
    const qr = new QrDecomposition(jacobian);
    if (!tellsApart(qr)) return failed(theta, 'the points cannot determine these constants separately');
    const step = qr.solve(Matrix.columnVector(residuals)).to1DArray();
    let factor = 1;
    let improved = false;
    for (let halving = 0; halving < 30; halving++, factor /= 2) {
      const trial = theta.map((v, i) => v - factor * step[i]! * problem.scale[i]!);
      const trialResiduals = problem.residuals(trial);
      const trialChiSquare = sumOfSquares(trialResiduals);
      if (trialChiSquare <= chiSquare) {
        const gain = chiSquare - trialChiSquare;
        converged = gain <= 1e-12 * (1e-12 + chiSquare) || Math.max(...step.map(Math.abs)) < 1e-12;
        theta = trial;
        residuals = trialResiduals;
        chiSquare = trialChiSquare;
        improved = true;
        break;
      }
    }
    // No downhill step left: at the minimum to rounding when the remaining step is tiny beside the parameters.
    if (!improved) {
      converged = Math.max(...step.map(Math.abs)) < 1e-4;
      if (!converged) return failed(theta, 'no better fit could be found');
    }
  }
  if (converged) reason = `converged in ${iterations} steps`;
  return {
    parameters: theta,
    covariance: covarianceAt(problem, theta),
    chiSquare,
    converged,
    iterations,
    reason,
  };

  function failed(parameters: number[], why: string): GaussNewtonResult {
    const p = parameters.length;
    const unknown = Array.from({ length: p }, () => Array<number>(p).fill(Number.NaN));
    return { parameters, covariance: unknown, chiSquare, converged: false, iterations, reason: why };
  }
}

/** A column that is a mix of the others leaves only rounding on the diagonal of R, seldom an exact zero. */
function tellsApart(qr: QrDecomposition): boolean {
  const diagonal = qr.upperTriangularMatrix.diagonal().map(Math.abs);
  return Math.min(...diagonal) > 1e-9 * Math.max(...diagonal);
}

function sumOfSquares(values: readonly number[]): number {
  return values.reduce((s, v) => s + v * v, 0);
}

/** Derivative of the residuals by each parameter over its scale. */
function centralJacobian(problem: GaussNewtonProblem, theta: readonly number[]): Matrix | null {
  const h = 1e-4;
  const columns = theta.map((_, j) => {
    const shifted = (sign: number) =>
      problem.residuals(theta.map((v, i) => (i === j ? v + sign * h * problem.scale[i]! : v)));
    const up = shifted(1);
    const down = shifted(-1);
    return up.map((v, i) => (v - down[i]!) / (2 * h));
  });
  if (!columns.every((c) => c.every(Number.isFinite))) return null;
  return new Matrix(columns).transpose();
}

function covarianceAt(problem: GaussNewtonProblem, theta: readonly number[]): number[][] {
  const jacobian = centralJacobian(problem, theta);
  const p = theta.length;
  if (!jacobian) return Array.from({ length: p }, () => Array<number>(p).fill(Number.NaN));
  const r = new QrDecomposition(jacobian).upperTriangularMatrix.subMatrix(0, p - 1, 0, p - 1);
  const inverse = new QrDecomposition(r).solve(Matrix.eye(p));
  const scaled = inverse.mmul(inverse.transpose());
  return theta.map((_, i) => theta.map((__, j) => scaled.get(i, j) * problem.scale[i]! * problem.scale[j]!));
}
