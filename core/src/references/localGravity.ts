/** Anomalies of the real Earth about the formula, m/s2, standard uncertainty: 500 um/s2 covers most places. */
export const GRAVITY_UNCERTAINTY = 5e-4;

/**
 * Gravity at a latitude and elevation, m/s2: normal gravity of the Geodetic Reference System 1980 (Moritz, J. Geod. 74
 * (2000) 128, series form) with the free-air gradient, 3.086e-6 per metre.
 * @throws {RangeError} outside -90 to 90 degrees or -430 to 9000 m
 */
export function localGravity(latitudeDeg: number, elevationM: number): number {
  if (!(Math.abs(latitudeDeg) <= 90))
    throw new RangeError(
      `Enter a latitude from −90 to 90 degrees (south is negative); received ${latitudeDeg}.`,
    );
  if (!(elevationM >= -430 && elevationM <= 9000))
    throw new RangeError(`Enter an elevation from −430 to 9000 m; received ${elevationM} m.`);
  const s = Math.sin((latitudeDeg * Math.PI) / 180) ** 2;
  const s2 = Math.sin((2 * latitudeDeg * Math.PI) / 180) ** 2;
  return 9.780327 * (1 + 0.0053024 * s - 0.0000058 * s2) - 3.086e-6 * elevationM;
}
