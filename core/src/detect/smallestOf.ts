/** Fewer than these cannot show what is usual. */
const LEAST = 3;

/**
 * The smallest of the heights that belong together: those below a quarter of the middle one are something else.
 * @param heights of what was found with hardly any limit; null with fewer than three of them
 */
export function smallestOf(heights: readonly number[]): number | null {
  if (heights.length < LEAST) return null;
  const sorted = heights.toSorted((a, b) => a - b);
  const large = sorted.slice(sorted.length >> 1);
  const middle = large[large.length >> 1]!;
  return sorted.find((h) => h >= middle / 4) ?? null;
}
