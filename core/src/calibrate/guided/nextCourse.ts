/** The course that lies farthest from all that were kept, degrees from 0 to 360; null while none was. */
export function nextCourse(kept: readonly number[]): number | null {
  if (kept.length === 0) return null;
  const ordered = [...new Set(kept.map((c) => ((c % 360) + 360) % 360))].toSorted((a, b) => a - b);
  let [best, gap] = [0, -1];
  ordered.forEach((course, i) => {
    const next = i + 1 < ordered.length ? ordered[i + 1]! : ordered[0]! + 360;
    if (next - course > gap) [best, gap] = [(course + (next - course) / 2) % 360, next - course];
  });
  return best;
}
