/**
 * Pressure of the standard atmosphere at an elevation, hPa. ISO 2533:1975 (identical with the U.S. Standard Atmosphere
 * 1976 in the lowest layer): p = 1013.25 (1 - L h / T0)^(g M / (R L)), h taken as geopotential height.
 * @param elevationM metres above sea level, -500 to 11000
 * @throws {RangeError} outside that layer
 */
export function standardPressureHpa(elevationM: number): number {
  if (!(elevationM >= -500 && elevationM <= 11000)) {
    throw new RangeError(
      `Enter an elevation from −500 to 11,000 m; received ${elevationM} m. Outside this range, enter the pressure from a barometer instead.`,
    );
  }
  const lapse = 0.0065;
  const exponent = (9.80665 * 0.0289644) / (8.31432 * lapse);
  return 1013.25 * (1 - (lapse * elevationM) / 288.15) ** exponent;
}
