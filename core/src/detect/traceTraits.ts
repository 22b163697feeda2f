import type { Trace } from './kind.ts';

export interface TraceTraits {
  readonly times: Float64Array;
  readonly values: Float64Array;
  /** Standard deviation of single readings, from their differences, which a slow signal hardly moves. */
  readonly noise: number;
  /** Middle, and the 2 % and 98 % quantiles. */
  readonly middle: number;
  readonly low: number;
  readonly high: number;
  readonly sampleRateHz: number;
}

const LEAST = 20;

/** What a trace is like, without the readings that are no numbers; null with fewer than twenty of them. */
export function traceTraits(trace: Trace): TraceTraits | null {
  const kept: number[] = [];
  for (let i = 0; i < trace.values.length; i++) if (Number.isFinite(trace.values[i]!)) kept.push(i);
  if (kept.length < LEAST) return null;
  const times = Float64Array.from(kept, (i) => trace.times[i]!);
  const values = Float64Array.from(kept, (i) => trace.values[i]!);
  const sorted = values.slice().sort();
  const quantile = (p: number) => sorted[Math.round(p * (sorted.length - 1))]!;
  const steps = times.slice(1).map((t, i) => t - times[i]!);
  const period = steps.sort()[steps.length >> 1]!;
  return {
    times,
    values,
    noise: noiseOf(values),
    middle: quantile(0.5),
    low: quantile(0.02),
    high: quantile(0.98),
    sampleRateHz: period > 0 ? 1 / period : 1,
  };
}

/** From second differences, by their middle size: a straight slope and a few jumps do not count. */
export function noiseOf(values: Float64Array): number {
  if (values.length < 3) return Number.NaN;
  const bends = new Float64Array(values.length - 2);
  for (let i = 0; i < bends.length; i++)
    bends[i] = Math.abs(values[i + 2]! - 2 * values[i + 1]! + values[i]!);
  bends.sort();
  return (1.4826 * bends[bends.length >> 1]!) / Math.sqrt(6);
}
