export interface DilutionStep {
  readonly taken: number;
  readonly madeUpTo: number;
  readonly takenPercent: number;
  readonly madeUpPercent: number;
}

/**
 * What a row of dilutions leaves of the strength: the product of taken / made up, and its relative standard uncertainty
 * from the vessels' tolerances in per cent (rectangular, combined in quadrature).
 * @throws {RangeError} when a step takes more than it is made up to
 */
export function dilutionShare(steps: readonly DilutionStep[]): { share: number; uRelative: number } {
  steps.forEach((s, i) => {
    if (s.taken > s.madeUpTo)
      throw new RangeError(
        `Dilution step ${i + 1}: the volume taken (${s.taken}) must be smaller than the final volume (${s.madeUpTo}). Swap them.`,
      );
  });
  return {
    share: steps.reduce((c, s) => (c * s.taken) / s.madeUpTo, 1),
    uRelative: Math.hypot(...steps.flatMap((s) => [s.takenPercent, s.madeUpPercent])) / Math.sqrt(3) / 100,
  };
}
