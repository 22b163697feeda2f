/** Up to so many deviations of noise against what it moves by from one reading to the next, the first beyond is one of few. */
const FEW = 2;

/**
 * What noise makes of the moment at which a slow reading first meets a level, dated by the straight line between the last
 * reading before and the first behind: as a share of noise over slope. Two readings have a say in it; of many that are near
 * the level, the first beyond comes too early. By simulation, within a twentieth up to eight deviations a reading.
 * @param noise standard deviation of a reading, over what it moves by from one to the next
 */
export const firstBelow = (noise: number): number => Math.sqrt(2 / 3) * Math.max(1, (noise / FEW) ** 0.2);
