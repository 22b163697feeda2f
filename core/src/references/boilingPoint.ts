/** Coefficients of the saturation line, IAPWS-IF97 (2007 revision), table 34. */
const N = [
  0.11670521452767e4, -0.72421316703206e6, -0.17073846940092e2, 0.1202082470247e5, -0.32325550322333e7,
  0.1491510861353e2, -0.48232657361591e4, 0.40511340542057e6, -0.23855557567849, 0.65017534844798e3,
] as const;

/**
 * Boiling temperature of pure water at a pressure, degC: the backward equation of IAPWS-IF97, region 4 (equation 31),
 * itself within 0.003 K of the steam tables at these pressures.
 * @param pressureHpa absolute (station) pressure, 300 to 1100 hPa here
 * @throws {RangeError} outside that range
 */
export function boilingPointC(pressureHpa: number): number {
  if (!(pressureHpa >= 300 && pressureHpa <= 1100)) {
    throw new RangeError(
      `Enter a pressure from 300 to 1100 hPa; received ${pressureHpa} hPa. Use the station pressure, not the pressure reduced to sea level.`,
    );
  }
  const beta = (pressureHpa * 1e-4) ** 0.25;
  const e = beta * beta + N[2] * beta + N[5];
  const f = N[0] * beta * beta + N[3] * beta + N[6];
  const g = N[1] * beta * beta + N[4] * beta + N[7];
  const d = (2 * g) / (-f - Math.sqrt(f * f - 4 * e * g));
  const sum = N[9] + d;
  return (sum - Math.sqrt(sum * sum - 4 * (N[8] + N[9] * d))) / 2 - 273.15;
}
