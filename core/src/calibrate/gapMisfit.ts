/**
 * How far a curve through all its points misses between them, as a standard uncertainty in the reading's unit: what points
 * left out are missed by, beyond what the uncertainties explain. A point left out doubles the gap, and with it grows what a
 * curve misses there, so that only that share of the variance counts.
 * @param foretold of each point the error when it is left out, and the standard uncertainty of that; the outermost two
 *   cannot be foretold from the others and do not count
 * @param grows how many times more a curve misses in a gap twice as wide
 * @returns null without two that were foretold
 */
export function gapMisfit(
  foretold: readonly ({ readonly error: number; readonly u: number } | null)[],
  grows: number,
): number | null {
  const known = foretold.filter((f) => f !== null);
  if (known.length < 2) return null;
  const beyond = known.reduce((s, f) => s + f.error ** 2 - f.u ** 2, 0) / known.length;
  return Math.sqrt(Math.max(0, beyond)) / grows;
}
