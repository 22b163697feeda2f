/**
 * Stated uncertainties are taken to be good to a quarter of themselves, which is worth eight degrees of freedom
 * (JCGM 100:2008, G.4.2, equation G.3).
 */
const STATED_DOF = 8;

export interface Widening {
  /** Factor on standard uncertainties. */
  readonly factor: number;
  /** Degrees of freedom that it is known with. */
  readonly degreesOfFreedom: number;
}

/**
 * How much more values scatter than their stated uncertainties say (Birge, Phys. Rev. 40 (1932) 207), or less. What
 * was stated counts as well: a few that happen to scatter are no proof against it.
 * @param chiSquare sum of (error / stated standard uncertainty)^2 @param degreesOfFreedom of that sum, 0 or more
 */
export function widening(chiSquare: number, degreesOfFreedom: number): Widening {
  const ratio = (STATED_DOF + chiSquare) / (STATED_DOF + degreesOfFreedom);
  return {
    factor: degreesOfFreedom > 0 ? Math.sqrt(ratio) : 1,
    degreesOfFreedom: STATED_DOF + degreesOfFreedom,
  };
}
