import { mean, sampleSd } from '../numerics/index.ts';
import type { Detector, Emit } from './detector.ts';

export interface StableWindow {
  readonly startS: number;
  readonly endS: number;
  readonly mean: number;
  readonly sd: number;
  readonly n: number;
}

/**
 * Stretches in which the signal stands still: every window of `windowS` in them has a drift and a scatter under the limits.
 * One event a stretch, when it ends. Windows are judged without overlap, so a stretch is a whole number of them.
 */
export function stableWindows(
  { windowS, drift, scatter }: { windowS: number; drift: number; scatter: number },
  emit: Emit<StableWindow>,
): Detector {
  if (!(windowS > 0)) throw new RangeError(`The window must be longer than 0 s; received ${windowS}.`);
  let times: number[] = [];
  let values: number[] = [];
  let stretch: { startS: number; endS: number; values: number[] } | null = null;
  const end = () => {
    if (stretch)
      emit({
        startS: stretch.startS,
        endS: stretch.endS,
        mean: mean(stretch.values),
        sd: sampleSd(stretch.values),
        n: stretch.values.length,
      });
    stretch = null;
  };
  const judge = () => {
    if (values.length >= 4 && still(times, values, drift, scatter)) {
      stretch ??= { startS: times[0]!, endS: 0, values: [] };
      stretch.endS = times.at(-1)!;
      stretch.values.push(...values);
    } else end();
    times = [];
    values = [];
  };
  return {
    push(t, x) {
      if (times.length > 0 && t - times[0]! >= windowS) judge();
      if (Number.isNaN(x)) {
        times = [];
        values = [];
        end();
        return;
      }
      times.push(t);
      values.push(x);
    },
    finish() {
      if (times.length > 0 && times.at(-1)! - times[0]! >= 0.9 * windowS) judge();
      end();
    },
  };
}

function still(times: readonly number[], values: readonly number[], drift: number, scatter: number): boolean {
  const [mt, mv] = [mean(times), mean(values)];
  let sxx = 0;
  let sxy = 0;
  times.forEach((t, i) => {
    sxx += (t - mt) ** 2;
    sxy += (t - mt) * (values[i]! - mv);
  });
  const slope = sxx > 0 ? sxy / sxx : 0;
  return Math.abs(slope) * (times.at(-1)! - times[0]!) <= drift && sampleSd(values) <= scatter;
}
