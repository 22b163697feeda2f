/**
 * A root of f between two ends where f changes sign, by bisection with secant steps (Illinois rule).
 * @returns NaN when f has the same sign at both ends or is no number there
 */
export function findRoot(f: (x: number) => number, low: number, high: number, tolerance = 1e-12): number {
  let [a, b] = [low, high];
  let [fa, fb] = [f(a), f(b)];
  if (fa === 0) return a;
  if (fb === 0) return b;
  if (!(fa * fb < 0)) return Number.NaN;
  for (let i = 0; i < 200; i++) {
    const width = Math.abs(b - a);
    if (width <= tolerance * Math.max(1, Math.abs(a), Math.abs(b))) break;
    // Every third step halves, so that a curve with a corner cannot stall the secant.
    const x = i % 3 === 2 ? (a + b) / 2 : (a * fb - b * fa) / (fb - fa);
    const fx = f(x);
    if (fx === 0) return x;
    if (fx * fb < 0) [a, fa] = [b, fb];
    else fa /= 2;
    [b, fb] = [x, fx];
  }
  return Math.abs(fb) < Math.abs(fa) ? b : (a + b) / 2;
}
