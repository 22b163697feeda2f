import { detectAll, streamFaults, type StreamFault } from '../detect/index.ts';
import { sampleSd } from '../numerics/index.ts';
import { aliasHz, HEADROOM, timingUncertainty, worstPeakFraction } from '../numerics/samplingRate.ts';

export interface SamplingResult {
  readonly n: number;
  /** From the middle interval, so that gaps do not count. */
  readonly rateHz: number;
  /** Readings over the whole time, gaps and all. */
  readonly achievedHz: number;
  /** Standard deviation of the intervals without gaps, s. */
  readonly jitterS: number;
  readonly worstIntervalS: number;
  readonly gaps: readonly StreamFault[];
  readonly duplicates: number;
  readonly backwards: number;
  /** Share of the readings that are missing in gaps, 0 to 1. */
  readonly lost: number;
  /** Highest frequency that keeps its place, Hz. */
  readonly usableHz: number;
}

/**
 * How a recording was really sampled, from its time stamps.
 * @param times n times, s
 * @throws {RangeError} with fewer than three times
 */
export function sampling(times: ArrayLike<number>): SamplingResult {
  const n = times.length;
  if (n < 3)
    throw new RangeError(`At least 3 time stamps are needed to calculate the sampling rate; received ${n}.`);
  const steps = Array.from({ length: n - 1 }, (_, i) => times[i + 1]! - times[i]!);
  const forward = steps.filter((v) => v > 0).sort((a, b) => a - b);
  const period = forward[forward.length >> 1]!;
  const values = Float64Array.from({ length: n }, (_, i) => i);
  const faults = detectAll<StreamFault>(
    (emit) =>
      streamFaults(
        { sampleRateHz: 1 / period, stuckS: Infinity, lowest: -Infinity, highest: Infinity },
        emit,
      ),
    times,
    values,
  );
  const gaps = faults.filter((f) => f.kind === 'gap');
  const missing = gaps.reduce((s, g) => s + g.count, 0);
  const regular = forward.filter((v) => v <= 1.5 * period);
  return {
    n,
    rateHz: 1 / period,
    achievedHz: (n - 1) / (times[n - 1]! - times[0]!),
    jitterS: regular.length > 1 ? sampleSd(regular) : 0,
    worstIntervalS: forward.at(-1)!,
    gaps,
    duplicates: faults.filter((f) => f.kind === 'duplicate').length,
    backwards: faults.filter((f) => f.kind === 'backwards').length,
    lost: missing / (n + missing),
    usableHz: 1 / period / HEADROOM,
  };
}

export interface EventCapture {
  /** Worst captured fraction of the peak at the longest interval of the recording, gaps among them. */
  readonly worstPeakFraction: number;
  /** Standard uncertainty of the time between two such events, s. */
  readonly timingU: number;
}

/** What the real sampling does to an event of a width, s: lost peak and timing error. */
export function eventCapture(result: SamplingResult, widthS: number, clockPpm: number): EventCapture {
  return {
    worstPeakFraction: worstPeakFraction(widthS, 1 / result.worstIntervalS),
    timingU: timingUncertainty(result.rateHz, widthS, clockPpm),
  };
}

/** A frequency that sampling may put where it is not. */
export interface FoldedTone {
  readonly frequencyHz: number;
  /** Where it shows up, Hz. */
  readonly atHz: number;
  /** It shows up elsewhere, and among what the event is made of. */
  readonly inBand: boolean;
}

/**
 * Where interferers show up after sampling.
 * @param bandHz highest frequency that the event is made of, Hz
 */
export const foldedTones = (rateHz: number, bandHz: number, interferersHz: readonly number[]): FoldedTone[] =>
  interferersHz.map((frequencyHz) => {
    const atHz = aliasHz(frequencyHz, rateHz);
    return { frequencyHz, atHz, inBand: frequencyHz > rateHz / 2 && atHz <= bandHz };
  });
