/**
 * Degrees of freedom that a sum of independent parts is known with (Welch and Satterthwaite; JCGM 100:2008, G.4.1); Infinity
 * where each part is known by itself.
 * @param variance of the sum
 */
export function effectiveDegreesOfFreedom(
  variance: number,
  parts: readonly { readonly u: number; readonly degreesOfFreedom: number }[],
): number {
  const fourth = parts.reduce((s, { u, degreesOfFreedom }) => s + u ** 4 / degreesOfFreedom, 0);
  return fourth > 0 ? variance ** 2 / fourth : Number.POSITIVE_INFINITY;
}
