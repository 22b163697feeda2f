export interface Bout {
  readonly startS: number;
  readonly endS: number;
  readonly count: number;
  /** Events a minute within the bout; NaN for a single one. */
  readonly perMinute: number;
}

/**
 * Groups events into bouts: a pause longer than `gapS` ends one; a bout of fewer than `least` events is handling, not work.
 * @param times rising, s
 */
export function bouts(times: readonly number[], gapS: number, least: number): Bout[] {
  if (!(gapS > 0)) throw new RangeError(`The pause between bouts must be above 0 s; received ${gapS}.`);
  const found: Bout[] = [];
  let from = 0;
  for (let i = 1; i <= times.length; i++) {
    if (i < times.length && times[i]! - times[i - 1]! <= gapS) continue;
    const count = i - from;
    if (count >= least) {
      const [startS, endS] = [times[from]!, times[i - 1]!];
      found.push({ startS, endS, count, perMinute: (60 * (count - 1)) / (endS - startS) });
    }
    from = i;
  }
  return found;
}
