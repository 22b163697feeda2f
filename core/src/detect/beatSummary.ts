import { mean, sampleSd } from '../numerics/index.ts';

export interface BeatSummary {
  readonly beats: number;
  readonly perMinute: number;
  /** Standard uncertainty of the rate, from the scatter of intervals. */
  readonly uPerMinute: number;
  readonly intervalS: number;
  readonly intervalSd: number;
  /** Intervals about two (three, ...) times the middle one: so many beats are missing. */
  readonly missed: number;
  /** Intervals under six tenths of the middle one: so many were counted twice. */
  readonly doubled: number;
  /** Gains (positive) or losses a day against the nominal interval, s; null without one. */
  readonly secondsADay: number | null;
}

/**
 * What a row of beats says: the rate from the good intervals, with missed and doubled ones named, not averaged in.
 * @param times rising, s
 * @returns null with fewer than three beats
 */
export function summariseBeats(times: readonly number[], nominalIntervalS?: number): BeatSummary | null {
  if (times.length < 3) return null;
  const intervals = times.slice(1).map((t, i) => t - times[i]!);
  const sorted = intervals.toSorted((a, b) => a - b);
  const median = sorted[sorted.length >> 1]!;
  const good = intervals.filter((v) => v >= 0.6 * median && v <= 1.5 * median);
  const missed = intervals
    .filter((v) => v > 1.5 * median)
    .reduce((s, v) => s + Math.round(v / median) - 1, 0);
  const doubled = intervals.filter((v) => v < 0.6 * median).length;
  const interval = mean(good);
  const sd = good.length > 1 ? sampleSd(good) : 0;
  return {
    beats: times.length,
    perMinute: 60 / interval,
    uPerMinute: ((60 / interval) * (sd / Math.sqrt(good.length))) / interval,
    intervalS: interval,
    intervalSd: sd,
    missed,
    doubled,
    secondsADay: nominalIntervalS === undefined ? null : 86400 * (nominalIntervalS / interval - 1),
  };
}
