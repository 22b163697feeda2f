/** So many of the longest intervals that are asked for may pass: one that comes a little late is not standing still. */
const PATIENCE = 1.5;

/** Time without an event after which a rate is 0, s; null when no slowest rate is known. @param slowestHz events a second */
export const stillAfterS = (slowestHz: number | undefined): number | null =>
  slowestHz === undefined ? null : PATIENCE / slowestHz;

/** Whether nothing has come for longer than the slowest rate takes. A hair of slack against the rounding of times. */
export function standsStill(sinceS: number, slowestHz: number | undefined): boolean {
  const after = stillAfterS(slowestHz);
  return after !== null && sinceS > after * (1 + 1e-9);
}
