import { mean, sampleSd } from '../numerics/index.ts';
import type { Detector, Emit } from './detector.ts';

export interface StableWindow {
  readonly startS: number;
  readonly endS: number;
  readonly mean: number;
  readonly sd: number;
  readonly n: number;
}

export interface WindowMemory {
  times: number[];
  values: number[];
  /** Sums of the stretch so far, about its first value. */
  stretch: {
    startS: number;
    endS: number;
    n: number;
    about: number;
    sum: number;
    squares: number;
    /** Mean of its newest window; not there in what was saved before it was kept. */
    newest?: number;
  } | null;
}

export const noWindow = (): WindowMemory => ({ times: [], values: [], stretch: null });

/**
 * Stretches in which the signal stands still: every window of `windowS` in them has a drift and a scatter
 * under the limits, and lies no farther from the one before than the larger of both.
 * One event a stretch, when it ends; `begins` is told of its first window. Windows are judged without overlap, so a stretch is a whole number of them.
 */
export function stableWindows(
  { windowS, drift, scatter }: { windowS: number; drift: number; scatter: number },
  emit: Emit<StableWindow>,
  m: WindowMemory = noWindow(),
  begins: Emit<StableWindow> = () => undefined,
): Detector {
  if (!(windowS > 0)) throw new RangeError(`Enter a duration above 0 s; received ${windowS}.`);
  const end = () => {
    if (m.stretch) emit(summary(m.stretch));
    m.stretch = null;
  };
  const judge = () => {
    const { times, values } = m;
    if (values.length >= 4 && still(times, values, drift, scatter)) {
      const middle = mean(values);
      // It may have jumped just between two windows that are both still.
      if (Math.abs(middle - (m.stretch?.newest ?? middle)) > Math.max(drift, scatter)) end();
      const isNew = m.stretch === null;
      m.stretch ??= { startS: times[0]!, endS: 0, n: 0, about: values[0]!, sum: 0, squares: 0 };
      m.stretch.endS = times.at(-1)!;
      m.stretch.newest = middle;
      for (const v of values) {
        m.stretch.n++;
        m.stretch.sum += v - m.stretch.about;
        m.stretch.squares += (v - m.stretch.about) ** 2;
      }
      if (isNew) begins(summary(m.stretch));
    } else end();
    m.times = [];
    m.values = [];
  };
  return {
    push(t, x) {
      if (m.times.length > 0 && t - m.times[0]! >= windowS) judge();
      if (Number.isNaN(x)) {
        m.times = [];
        m.values = [];
        end();
        return;
      }
      m.times.push(t);
      m.values.push(x);
    },
    finish() {
      if (m.times.length > 0 && m.times.at(-1)! - m.times[0]! >= 0.9 * windowS) judge();
      end();
    },
  };
}

function summary({
  startS,
  endS,
  n,
  about,
  sum,
  squares,
}: NonNullable<WindowMemory['stretch']>): StableWindow {
  const sd = Math.sqrt(Math.max(0, squares - (sum * sum) / n) / (n - 1));
  return { startS, endS, mean: about + sum / n, sd, n };
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
