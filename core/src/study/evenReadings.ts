import { mean, sampleSd } from '../numerics/index.ts';
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

/** So many times what readings move by from one to the next, and they went somewhere: unless a filter holds them alike. */
const MOVED = 5;
const STRETCHES = 10;
/** Share of all scatter that means of stretches must have: of filtered noise they have little. */
const MOSTLY = 0.8;

/** Whether good readings went somewhere, instead of scattering about one value. */
export function wentSomewhere(values: Float64Array): boolean {
  const n = values.length;
  let squares = 0;
  for (let i = 1; i < n; i++) squares += (values[i]! - values[i - 1]!) ** 2;
  const sd = sampleSd(values);
  // Of white noise half of it is the variance.
  if (!(sd > MOVED * Math.sqrt(squares / (2 * (n - 1))))) return false;
  const means = Array.from({ length: STRETCHES }, (_, k) =>
    mean(values.subarray(Math.floor((k * n) / STRETCHES), Math.floor(((k + 1) * n) / STRETCHES))),
  );
  return sampleSd(means) > MOSTLY * sd;
}
