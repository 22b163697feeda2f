import type { FitResult } from '../../model/calibration.ts';
import type { LineEdit } from '../../model/line.ts';
import { GUIDED_FITS } from './index.ts';

/** A guided result joined with what earlier guided steps found of the same line: middle, then lag, then scale. */
export function mergeGuided(earlier: FitResult | null, later: FitResult): FitResult {
  if (!earlier || !GUIDED_FITS.some((f) => f.id === earlier.fit)) return later;
  const same = (p: FitResult['parameters'][number]) =>
    later.parameters.some((q) => q.stageId === p.stageId && q.param === p.param);
  const kept = earlier.parameters.map((_, i) => i).filter((i) => !same(earlier.parameters[i]!));
  if (kept.length === 0) return later;
  const n = kept.length;
  const size = n + later.parameters.length;
  const covariance = Array.from({ length: size }, (_, i) =>
    Array.from({ length: size }, (_, j) =>
      i < n && j < n
        ? earlier.covariance[kept[i]!]![kept[j]!]!
        : i >= n && j >= n
          ? later.covariance[i - n]![j - n]!
          : 0,
    ),
  );
  // Of several steps the least well known stands for all.
  const freedom = [earlier, later].flatMap((r) => r.uDegreesOfFreedom ?? []);
  return {
    ...later,
    ...(freedom.length > 0 && { uDegreesOfFreedom: Math.min(...freedom) }),
    parameters: [...kept.map((i) => earlier.parameters[i]!), ...later.parameters],
    covariance,
    edits: joined(earlier.edits, later.edits),
  };
}

function joined(earlier: readonly LineEdit[], later: readonly LineEdit[]): LineEdit[] {
  const edits = earlier.map((e) => {
    const newer = later.find((l) => l.stageId === e.stageId);
    return newer ? { ...e, ...newer, params: { ...e.params, ...newer.params } } : e;
  });
  return [...edits, ...later.filter((l) => !earlier.some((e) => e.stageId === l.stageId))];
}
