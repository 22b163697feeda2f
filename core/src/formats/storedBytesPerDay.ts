/**
 * Bytes that a day of recording takes on disk: time and columns as 64-bit floats, a twentieth more for overviews and pages.
 * @param columns raw columns beside the time
 */
export const storedBytesPerDay = (columns: number, rateHz: number): number =>
  86_400 * rateHz * 8 * (1 + columns) * 1.05;
