/**
 * Standard uncertainty of a crossing that lies between two samples. Where the signal was already on its way the straight
 * line between them holds, and noise over slope is what is left; a step between two samples may lie anywhere between them.
 * @param stepS time between the samples @param rise between them @param riseBefore between the two samples before
 * @param noise standard deviation of single readings; NaN when not known
 */
export function timingU(stepS: number, rise: number, riseBefore: number, noise: number): number {
  const anywhere = stepS / Math.sqrt(12);
  const isStep = !(Math.abs(riseBefore) >= 0.2 * Math.abs(rise));
  if (isStep || !(noise >= 0) || rise === 0) return anywhere;
  return Math.max((noise / Math.abs(rise)) * stepS, 0.02 * stepS);
}
