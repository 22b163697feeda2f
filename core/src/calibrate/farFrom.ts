/** From so much of the range on, and of the tolerance, a reference lies too far from what the line reads to be taken unasked. */
const OF_RANGE = 0.2;
const OF_TOLERANCE = 10;

/**
 * Whether a reference lies so far from what the line reads that one of them is more likely a slip than the sensor that far
 * off. Of a range of which nothing is known, nothing is far.
 * @param range ends of the brief's range, in the reading's unit
 */
export function farFrom(
  reading: number,
  reference: number,
  range: readonly [low: number, high: number] | null,
  tolerance: number | null,
): boolean {
  if (!range || !Number.isFinite(reading)) return false;
  const off = Math.abs(reading - reference);
  return off > OF_RANGE * (range[1] - range[0]) && off > OF_TOLERANCE * (tolerance ?? 0);
}
