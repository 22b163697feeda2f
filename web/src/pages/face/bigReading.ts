interface Shown {
  readonly id: string;
  readonly unit: string;
  /** NaN where there is none. */
  readonly value: number;
}

/** Readings of the first one's quantity: only those can be compared. */
export const alike = <T extends Shown>(readings: readonly T[]): T[] =>
  readings.filter((r) => r.unit === readings[0]!.unit);

/**
 * The reading in big figures.
 * @param which a channel, or "highest" of those that can be compared
 */
export function bigReading<T extends Shown>(readings: readonly T[], which: string): T | undefined {
  if (which !== 'highest') return readings.find((r) => r.id === which);
  const all = alike(readings);
  // One without a number goes first: a fault must not hide behind a healthy neighbour.
  return all.find((r) => Number.isNaN(r.value)) ?? all.toSorted((a, b) => b.value - a.value)[0];
}
