/** The last intervals between events, and how many of all were too long or too short. */
export interface IntervalMemory {
  lastS: number;
  recent: number[];
  count: number;
  missed: number;
  doubled: number;
}

export const noIntervals = (): IntervalMemory => ({
  lastS: Number.NaN,
  recent: [],
  count: 0,
  missed: 0,
  doubled: 0,
});

/** Beyond these shares of the middle interval, beats were missed or counted twice. */
const MISSED = 1.5;
const DOUBLED = 0.6;
/** Intervals from which the middle one is taken. */
const USUAL = 15;

/**
 * Takes the time of the next event. An interval about two (three, ...) times the middle one of the last fifteen has beats
 * missing, one under six tenths was counted twice; neither goes among the good ones.
 * @param keep good intervals that are kept @param pauseS an interval longer than this is a pause, not missed beats
 */
export function takeEvent(
  m: IntervalMemory,
  timeS: number,
  keep: number,
  pauseS = Number.POSITIVE_INFINITY,
): void {
  const interval = timeS - m.lastS;
  m.lastS = timeS;
  m.count++;
  if (!(interval > 0)) return;
  if (interval > pauseS) {
    m.recent = [];
    return;
  }
  const usual = middleOf(m.recent.slice(-USUAL));
  if (m.recent.length >= 3 && interval > MISSED * usual) m.missed += Math.round(interval / usual) - 1;
  else if (m.recent.length >= 3 && interval < DOUBLED * usual) m.doubled++;
  else {
    m.recent.push(interval);
    if (m.recent.length > Math.max(keep, USUAL)) m.recent.shift();
    return;
  }
  // When it goes on like that, the pace has changed: what was usual is forgotten bit by bit.
  m.recent.shift();
}

function middleOf(values: readonly number[]): number {
  const sorted = values.toSorted((a, b) => a - b);
  return sorted.length > 0 ? sorted[sorted.length >> 1]! : Number.NaN;
}
