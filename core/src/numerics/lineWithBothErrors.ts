export interface BothErrorsLine {
  readonly intercept: number;
  readonly slope: number;
  /** Standard uncertainties and covariance, not scaled by the misfit. */
  readonly interceptSd: number;
  readonly slopeSd: number;
  readonly covariance: number;
  readonly chiSquareReduced: number;
  readonly converged: boolean;
  readonly iterations: number;
}

/**
 * Straight line with uncertainty in both coordinates, uncorrelated.
 * @param x n abscissae @param y n ordinates @param ux n standard uncertainties of x, >= 0 @param uy of y, >= 0, not both 0
 * @throws {RangeError} on unequal lengths, fewer than three points, equal abscissae or a point without uncertainty
 * Source: York, Evensen, Lopez Martinez, De Basabe Delgado, Am. J. Phys. 72 (2004) 367, equations 13 and table I.
 */
export function lineWithBothErrors(
  x: readonly number[],
  y: readonly number[],
  ux: readonly number[],
  uy: readonly number[],
): BothErrorsLine {
  const n = x.length;
  if (y.length !== n || ux.length !== n || uy.length !== n)
    throw new RangeError(
      `The number of x, y and uncertainty values must be equal; received ${n} x, ${y.length} y, ${ux.length} and ${uy.length} uncertainties.`,
    );
  if (n < 3)
    throw new RangeError(`A line with uncertainty in both axes needs at least 3 points; received ${n}.`);
  if (!(Math.max(...x) > Math.min(...x)))
    throw new RangeError(`All points have the same x, ${x[0]}. Add a point at another x.`);
  ux.forEach((u, i) => {
    if (!(u >= 0) || !(uy[i]! >= 0) || !(u + uy[i]! > 0))
      throw new RangeError(
        `Point ${i + 1} has uncertainties ${u} and ${uy[i]}; both must be 0 or more, and at least one above 0.`,
      );
  });
  const mean = (v: readonly number[]) => v.reduce((a, b) => a + b, 0) / n;
  const [mx, my] = [mean(x), mean(y)];
  let slope =
    x.reduce((s, v, i) => s + (v - mx) * (y[i]! - my), 0) / x.reduce((s, v) => s + (v - mx) ** 2, 0);
  let iterations = 0;
  let converged = false;
  let state = stateAt(slope);
  while (iterations < 500 && !converged) {
    iterations++;
    const { w, beta, u, v } = state;
    const next =
      w.reduce((s, wi, i) => s + wi * beta[i]! * v[i]!, 0) /
      w.reduce((s, wi, i) => s + wi * beta[i]! * u[i]!, 0);
    converged = Math.abs(next - slope) <= 1e-14 * Math.abs(next);
    slope = next;
    state = stateAt(slope);
  }
  const { w, beta, xBar, yBar } = state;
  const total = w.reduce((a, b) => a + b, 0);
  const adjusted = beta.map((b) => xBar + b);
  const centre = adjusted.reduce((s, v, i) => s + w[i]! * v, 0) / total;
  const slopeVariance = 1 / adjusted.reduce((s, v, i) => s + w[i]! * (v - centre) ** 2, 0);
  const intercept = yBar - slope * xBar;
  const chiSquare = w.reduce((s, wi, i) => s + wi * (y[i]! - slope * x[i]! - intercept) ** 2, 0);
  return {
    intercept,
    slope,
    interceptSd: Math.sqrt(1 / total + centre ** 2 * slopeVariance),
    slopeSd: Math.sqrt(slopeVariance),
    covariance: -centre * slopeVariance,
    chiSquareReduced: chiSquare / (n - 2),
    converged,
    iterations,
  };

  function stateAt(b: number) {
    const w = x.map((_, i) => 1 / (uy[i]! ** 2 + (b * ux[i]!) ** 2));
    const total = w.reduce((p, q) => p + q, 0);
    const xBar = x.reduce((s, v, i) => s + w[i]! * v, 0) / total;
    const yBar = y.reduce((s, v, i) => s + w[i]! * v, 0) / total;
    const u = x.map((v) => v - xBar);
    const v = y.map((q) => q - yBar);
    const beta = u.map((ui, i) => w[i]! * (uy[i]! ** 2 * ui + b * ux[i]! ** 2 * v[i]!));
    return { w, u, v, beta, xBar, yBar };
  }
}
