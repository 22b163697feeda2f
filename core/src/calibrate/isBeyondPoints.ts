/**
 * Whether a reading lies beyond the points that the calibration in use rests on, so that it is extrapolated. Unknown ends, and
 * lines of several raw columns, have no such end.
 */
export const isBeyondPoints = (
  validRaw: readonly [number, number] | null | undefined,
  raw: readonly number[],
): boolean => raw.length === 1 && !!validRaw && (raw[0]! < validRaw[0] || raw[0]! > validRaw[1]);
