import type { StudySamples } from './kind.ts';

/** The longest unbroken stretch of good readings at an even pace: what spectra and averages of averages need. */
export function evenReadings({ times, values }: Pick<StudySamples, 'times' | 'values'>): {
  readonly rateHz: number;
  readonly values: Float64Array;
} {
  const steps = Float64Array.from(
    { length: Math.max(0, times.length - 1) },
    (_, i) => times[i + 1]! - times[i]!,
  ).sort();
  const period = steps[steps.length >> 1] ?? Number.NaN;
  let best: [from: number, to: number] = [0, 0];
  for (let from = 0; from < values.length;) {
    let to = from;
    while (
      to < values.length &&
      !Number.isNaN(values[to]!) &&
      (to === from || Math.abs(times[to]! - times[to - 1]! - period) < 0.5 * period)
    )
      to++;
    if (to - from > best[1] - best[0]) best = [from, to];
    from = Math.max(to, from + 1);
  }
  const [from, to] = best;
  // The pace over the whole stretch: single steps are rounded to the board's clock.
  const rateHz = to - from > 1 ? (to - from - 1) / (times[to - 1]! - times[from]!) : 1 / period;
  return { rateHz, values: values.subarray(from, to) };
}
