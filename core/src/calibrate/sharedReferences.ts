import type { CalibrationPoint } from '../model/calibration.ts';

/**
 * What tells one reference from another: what it is wrong by is the same at every point that it was read at. Null for what
 * nature gives anew each time, and for masses and lengths that were each made by itself.
 */
export function sharedReference({ reference }: Pick<CalibrationPoint, 'reference'>): string | null {
  switch (reference.kind) {
    case 'own':
      return `own ${reference.referenceId}`;
    // Nobody says which one it was: two that are good to the same are taken for one.
    case 'instrument':
      return `instrument accurate to ±${reference.uncertainty}`;
    case 'meter':
      return `meter accurate to ${reference.percentOfReading} % and ${reference.digits} of ${reference.resolution}`;
    default:
      return null;
  }
}

/** Points whose references share what they are wrong by; those that stand for themselves are in none. */
export function sharingGroups<P extends { readonly shares?: string | null | undefined }>(
  points: readonly P[],
): P[][] {
  const groups = new Map<string, P[]>();
  for (const point of points) {
    if (!point.shares) continue;
    const group = groups.get(point.shares);
    if (group) group.push(point);
    else groups.set(point.shares, [point]);
  }
  return [...groups.values()].filter((group) => group.length > 1);
}
