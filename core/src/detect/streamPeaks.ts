import type { Detector, Emit } from './detector.ts';
import { vertex, type Sample } from './vertex.ts';

export interface PeakEvent {
  /** By the parabola through the highest sample and its neighbours. */
  readonly timeS: number;
  readonly value: number;
  /** Rise from the lowest sample since the last peak. */
  readonly rise: number;
  readonly stepS: number;
  /** How many readings stood out, and for how long, s. */
  readonly readings: number;
  readonly lastsS: number;
  /** Whether that was enough. */
  readonly enough: boolean;
}

export interface StreamPeakOptions {
  readonly height: number;
  /** The signal must have risen so much before, and must fall so much after, to make a peak of it. */
  readonly prominence: number;
  /** Peaks closer to the last one are not counted. */
  readonly minIntervalS: number;
  /** So many readings must stand out, between rising and falling by the prominence; 1 when not given. */
  readonly least?: number;
  /** And for so long, s; 0 when not given. */
  readonly shortestS?: number;
}

export interface PeakMemory {
  lowest: number;
  top: { t: number; x: number; before: Sample | null; after: Sample | null } | null;
  /** When it had risen by the prominence, and readings since. */
  riseS: number;
  readings: number;
  previous: Sample | null;
  last: number;
}

export const noPeaks = (): PeakMemory => ({
  lowest: Number.POSITIVE_INFINITY,
  top: null,
  riseS: Number.NaN,
  readings: 0,
  previous: null,
  last: Number.NEGATIVE_INFINITY,
});

/**
 * Peaks in a stream: a highest sample counts once the signal has fallen by the prominence below it. Causal, so unlike the
 * search in a whole recording the first of two close peaks is kept, not the taller. Those with too few readings, or too
 * short, are told as such.
 */
export function streamPeaks(
  options: StreamPeakOptions,
  emit: Emit<PeakEvent>,
  m: PeakMemory = noPeaks(),
): Detector {
  if (!(options.prominence > 0))
    throw new RangeError(
      `Enter a minimum rise and fall above 0; received ${options.prominence}. Start with a few times the noise.`,
    );
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      if (m.top && !m.top.after) m.top.after = { t, x };
      if (!m.top) {
        m.lowest = Math.min(m.lowest, x);
        if (x - m.lowest >= options.prominence) {
          m.top = { t, x, before: m.previous, after: null };
          m.riseS = t;
          m.readings = 0;
        }
      } else if (x > m.top.x) m.top = { t, x, before: m.previous, after: null };
      else if (m.top.x - x >= options.prominence) {
        const top = vertex(m.top.before, m.top, m.top.after);
        if (m.top.x >= options.height && top.timeS - m.last >= options.minIntervalS) {
          const [readings, lastsS] = [m.readings, t - m.riseS];
          const enough = readings >= (options.least ?? 1) && lastsS >= (options.shortestS ?? 0);
          const stepS = m.top.t - (m.top.before?.t ?? m.top.t);
          emit({ ...top, rise: m.top.x - m.lowest, stepS, readings, lastsS, enough });
          if (enough) m.last = top.timeS;
        }
        m.top = null;
        m.lowest = x;
      }
      if (m.top) m.readings++;
      m.previous = { t, x };
    },
    finish() {},
  };
}
