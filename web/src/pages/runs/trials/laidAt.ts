import type { Trial } from '@lucky-needle/core/model';

/** What trials that are laid over each other have in common: the moment that lies at 0. */
export type LaidBy = 'begin' | 'end' | 'highest' | 'passes';

interface Curve {
  readonly times: ArrayLike<number>;
  readonly values: ArrayLike<number>;
}

/**
 * The moment of a trial that is laid on the same moment of others, s of its run.
 * @param level of "passes", in the unit of the curve @returns null where it has no such moment
 */
export function laidAt(
  { fromS, toS }: Pick<Trial, 'fromS' | 'toS'>,
  { times, values }: Curve,
  by: LaidBy,
  level: number,
): number | null {
  if (by === 'begin') return fromS;
  if (by === 'end') return toS;
  let highest = -1;
  let before = -1;
  for (let i = 0; i < times.length; i++) {
    const v = values[i]!;
    if (v !== v) {
      before = -1;
      continue;
    }
    if (highest < 0 || v > values[highest]!) highest = i;
    // Between two readings next to each other by a straight line, up or down.
    const u = before < 0 ? v : values[before]!;
    if (by === 'passes' && before >= 0 && u !== v && (u - level) * (v - level) <= 0)
      return times[before]! + ((level - u) / (v - u)) * (times[i]! - times[before]!);
    before = i;
  }
  return by === 'highest' && highest >= 0 ? times[highest]! : null;
}
