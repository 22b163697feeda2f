import type { Detector, Emit } from './detector.ts';

export interface PeakEvent {
  /** By the parabola through the highest sample and its neighbours. */
  readonly timeS: number;
  readonly value: number;
  /** Rise from the lowest sample since the last peak. */
  readonly rise: number;
}

export interface StreamPeakOptions {
  readonly height: number;
  /** The signal must have risen so much before, and must fall so much after, to make a peak of it. */
  readonly prominence: number;
  /** Peaks closer to the last one are not counted. */
  readonly minIntervalS: number;
}

/**
 * Peaks in a stream: a highest sample counts once the signal has fallen by the prominence below it. Causal, so unlike the
 * search in a whole recording the first of two close peaks is kept, not the taller.
 */
export function streamPeaks(options: StreamPeakOptions, emit: Emit<PeakEvent>): Detector {
  if (!(options.prominence > 0))
    throw new RangeError(
      `The prominence must be above 0; received ${options.prominence}. Take a few times the noise.`,
    );
  let lowest = Number.POSITIVE_INFINITY;
  let top: { t: number; x: number; before: Sample | null; after: Sample | null } | null = null;
  let previous: Sample | null = null;
  let last = Number.NEGATIVE_INFINITY;
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      if (top && !top.after) top.after = { t, x };
      if (!top) {
        lowest = Math.min(lowest, x);
        if (x - lowest >= options.prominence) top = { t, x, before: previous, after: null };
      } else if (x > top.x) top = { t, x, before: previous, after: null };
      else if (top.x - x >= options.prominence) {
        const vertex = parabola(top.before, top, top.after);
        if (top.x >= options.height && vertex.timeS - last >= options.minIntervalS) {
          emit({ ...vertex, rise: top.x - lowest });
          last = vertex.timeS;
        }
        top = null;
        lowest = x;
      }
      previous = { t, x };
    },
    finish() {},
  };
}

interface Sample {
  readonly t: number;
  readonly x: number;
}

/** Vertex of the parabola through three samples; the middle one itself when they do not bend down. */
function parabola(a: Sample | null, b: Sample, c: Sample | null): { timeS: number; value: number } {
  if (!a || !c) return { timeS: b.t, value: b.x };
  const d1 = (b.x - a.x) / (b.t - a.t);
  const d2 = (c.x - b.x) / (c.t - b.t);
  const bend = (d2 - d1) / (c.t - a.t);
  if (!(bend < 0)) return { timeS: b.t, value: b.x };
  const slope = d1 + bend * (b.t - a.t);
  const shift = -slope / (2 * bend);
  return { timeS: b.t + shift, value: b.x + slope * shift + bend * shift * shift };
}
