/**
 * Three-term constants that agree with a beta curve in value and slope at 25 degC but bend like a real bead.
 * @param bend the cubic constant C, 1/K; 0 keeps the beta curve exactly
 */
export function threeTermsFromBeta(
  r0Ohm: number,
  betaK: number,
  bend: number,
): { a: number; b: number; c: number } {
  const log = Math.log(r0Ohm);
  const b = 1 / betaK - 3 * bend * log * log;
  return { a: 1 / 298.15 - b * log - bend * log ** 3, b, c: bend };
}
