/**
 * Standard uncertainty of a crossing that is dated by the straight line between two samples. Where the signal was already on
 * its way that line holds, and noise over slope is what is left, less of it in the middle, where both readings have a say; a
 * step may truly lie anywhere between the two.
 * @param stepS time between the samples @param rise between them @param riseBefore between the two samples before
 * @param noise standard deviation of single readings; NaN when not known
 * @param share of the step at which the line meets the level, 0 to 1
 */
export function timingU(
  stepS: number,
  rise: number,
  riseBefore: number,
  noise: number,
  share: number,
): number {
  const isStep = !(Math.abs(riseBefore) >= 0.2 * Math.abs(rise));
  if (isStep || !(noise >= 0) || rise === 0) return stepS * Math.sqrt(1 / 12 + (share - 0.5) ** 2);
  return Math.max((noise / Math.abs(rise)) * Math.hypot(1 - share, share), 0.02) * stepS;
}
