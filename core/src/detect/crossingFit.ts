import { fitPolynomial, studentTQuantile } from '../numerics/index.ts';

/** A standard deviation that is known from elsewhere counts as so many readings beside what these scatter by. */
const KNOWN = 100;

export interface FittedCrossing {
  readonly timeS: number;
  /** Standard uncertainty, widened where few readings were fitted, s. */
  readonly uTimeS: number;
}

/**
 * Moment at which readings pass a level, from a parabola through all of them: far steadier than two readings alone, and
 * right where the curve bends. Where the parabola misses the level there is none.
 * @param times at least five, s @param nearS about when @param noise standard deviation of a reading; NaN when not known
 */
export function crossingFit(
  times: readonly number[],
  values: readonly number[],
  level: number,
  nearS: number,
  noise = Number.NaN,
): FittedCrossing | null {
  if (times.length < 5) return null;
  const x = times.map((t) => t - nearS);
  const fit = fitPolynomial(x, values, 2);
  const [c, b, a] = fit.coefficients as [number, number, number];
  const root = nearestRoot(a, b, c - level);
  if (root === null) return null;
  const slope = Math.abs(b + 2 * a * root);
  const { degreesOfFreedom: own, residualSd } = fit;
  const known = noise >= 0 ? KNOWN : 0;
  const scatter = Math.sqrt((own * residualSd ** 2 + known * (noise || 0) ** 2) / (own + known));
  // The half width at 95 % over 1.96: its k = 2 interval then holds with few readings as well.
  const few = studentTQuantile(0.975, own + known) / 1.96;
  const u = (few * scatter * Math.sqrt(fit.predict(root).leverage)) / slope;
  return Number.isFinite(u) ? { timeS: nearS + root, uTimeS: u } : null;
}

function nearestRoot(a: number, b: number, c: number): number | null {
  if (Math.abs(a) < 1e-12 * Math.max(1, Math.abs(b))) return b === 0 ? null : -c / b;
  const inside = b * b - 4 * a * c;
  if (inside < 0) return null;
  // Without the loss of digits of the usual formula.
  const q = -(b + Math.sign(b || 1) * Math.sqrt(inside)) / 2;
  const roots = [q / a, q === 0 ? 0 : c / q];
  return roots.reduce((best, r) => (Math.abs(r) < Math.abs(best) ? r : best));
}
