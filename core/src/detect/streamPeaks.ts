import type { Detector, Emit } from './detector.ts';
import { vertex, type Sample } from './vertex.ts';

export interface PeakEvent {
  /** By the parabola through the highest sample and its neighbours. */
  readonly timeS: number;
  readonly value: number;
  /** Rise from the lowest sample since the last peak. */
  readonly rise: number;
  readonly stepS: number;
}

export interface StreamPeakOptions {
  readonly height: number;
  /** The signal must have risen so much before, and must fall so much after, to make a peak of it. */
  readonly prominence: number;
  /** Peaks closer to the last one are not counted. */
  readonly minIntervalS: number;
}

export interface PeakMemory {
  lowest: number;
  top: { t: number; x: number; before: Sample | null; after: Sample | null } | null;
  previous: Sample | null;
  last: number;
}

export const noPeaks = (): PeakMemory => ({
  lowest: Number.POSITIVE_INFINITY,
  top: null,
  previous: null,
  last: Number.NEGATIVE_INFINITY,
});

/**
 * Peaks in a stream: a highest sample counts once the signal has fallen by the prominence below it. Causal, so unlike the
 * search in a whole recording the first of two close peaks is kept, not the taller.
 */
export function streamPeaks(
  options: StreamPeakOptions,
  emit: Emit<PeakEvent>,
  m: PeakMemory = noPeaks(),
): Detector {
  if (!(options.prominence > 0))
    throw new RangeError(
      `The prominence must be above 0; received ${options.prominence}. Take a few times the noise.`,
    );
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      if (m.top && !m.top.after) m.top.after = { t, x };
      if (!m.top) {
        m.lowest = Math.min(m.lowest, x);
        if (x - m.lowest >= options.prominence) m.top = { t, x, before: m.previous, after: null };
      } else if (x > m.top.x) m.top = { t, x, before: m.previous, after: null };
      else if (m.top.x - x >= options.prominence) {
        const top = vertex(m.top.before, m.top, m.top.after);
        if (m.top.x >= options.height && top.timeS - m.last >= options.minIntervalS) {
          emit({ ...top, rise: m.top.x - m.lowest, stepS: m.top.t - (m.top.before?.t ?? m.top.t) });
          m.last = top.timeS;
        }
        m.top = null;
        m.lowest = x;
      }
      m.previous = { t, x };
    },
    finish() {},
  };
}
