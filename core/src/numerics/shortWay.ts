/** From one angle to another the short way round, -180 to 180 degrees. */
export const shortWay = (from: number, to: number): number => ((((to - from + 180) % 360) + 360) % 360) - 180;
