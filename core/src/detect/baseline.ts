/** What the baseline remembers. */
export interface BaselineMemory {
  level: number;
  t: number;
}

export const noBaseline = (): BaselineMemory => ({ level: 0, t: Number.NaN });

/**
 * Takes a slowly wandering baseline away: an exponential mean of the readings themselves, from the first one on.
 * @param withinS its time constant; 0 leaves the readings as they are
 */
export function baselineRemoved(
  withinS: number,
  m: BaselineMemory = noBaseline(),
): (t: number, x: number) => number {
  if (withinS === 0) return (_t, x) => x;
  return (t, x) => {
    if (Number.isNaN(m.t)) m.level = x;
    else m.level += (x - m.level) * (1 - Math.exp(-Math.max(0, t - m.t) / withinS));
    m.t = t;
    return x - m.level;
  };
}
