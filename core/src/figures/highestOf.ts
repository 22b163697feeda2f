import { normalQuantile } from '../numerics/index.ts';

/** The largest of all sizes so far, with how many came close to it. */
export interface HighestMemory {
  size: number;
  /** Those within what noise spans. */
  near: number;
}

export const noHighest = (): HighestMemory => ({ size: Number.NEGATIVE_INFINITY, near: 0 });

/** Standard deviations within which a size is as good as the largest. */
const NEAR = 4;

/** Takes the next one; true when it is the largest. @param noise standard deviation of single sizes; NaN when not known */
export function takeSize(m: HighestMemory, size: number, noise: number): boolean {
  const above = size - m.size;
  const span = NEAR * (noise || 0);
  if (above > span) m.near = 1;
  else if (above >= -span) m.near++;
  if (above <= 0) return false;
  m.size = size;
  return true;
}

/**
 * What noise makes of the largest of so many that are close to each other, as a factor of its standard deviation: twice this
 * holds what the largest of them stands too high in 95 of 100.
 */
export const noiseOfHighest = ({ near }: HighestMemory): number =>
  Math.max(1, normalQuantile(0.95 ** (1 / Math.max(1, near))) / 2);
