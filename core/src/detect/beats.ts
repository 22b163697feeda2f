import { crossingTime, type Detector, type Emit } from './detector.ts';

export interface Beat {
  /** Rising crossing of the adaptive level, between samples. */
  readonly timeS: number;
  /** Since the last beat; null for the first. */
  readonly intervalS: number | null;
  /** The envelope's height then, in the signal's unit. */
  readonly height: number;
  /** Rise between the samples around the crossing, and between the two before. */
  readonly rise: number;
  readonly riseBefore: number;
  /** How long it grew until it was one, s: so far its moment may lie beside that of the others, which is by their height. */
  readonly grewS: number;
}

export interface BeatOptions {
  /** No second beat within this time: a half of the shortest interval expected. */
  readonly refractoryS: number;
  /** The envelope forgets within about so many seconds: three or four intervals. */
  readonly memoryS: number;
  /** Level between the lower and the upper envelope, 0 to 1. */
  readonly level: number;
  /** Envelope heights below this are noise: no beats. */
  readonly minHeight: number;
  /**
   * Whether the first beat after a rest is found as well: it is expected to be as high as `minHeight`, and counts once it
   * has grown so high. Without it, what comes first only teaches how high beats are.
   */
  readonly fromRest?: boolean;
}

/** Envelope, last sample and last beat: all that the detector remembers. */
export interface BeatMemory {
  high: number;
  low: number;
  t0: number;
  x0: number;
  before: number;
  /** A crossing that has not grown to the height of a beat yet. */
  pending: { timeS: number; rise: number; riseBefore: number } | null;
  armed: boolean;
  last: number | null;
}

/** The memory of a detector that has seen nothing. */
export const noBeats = (): BeatMemory => ({
  high: Number.NaN,
  low: Number.NaN,
  t0: Number.NaN,
  x0: Number.NaN,
  before: Number.NaN,
  pending: null,
  armed: false,
  last: null,
});

/** Below this share of the level a beat may come again. */
export const REARM = 0.6;

/**
 * Beats or strokes by an adaptive level: an upper and a lower envelope follow the signal at once outwards and sink together
 * slowly; a beat is a rising crossing of the level between them, re-armed below a lower one, with a refractory time.
 * Source: the principle of Pan and Tompkins, IEEE Trans. Biomed. Eng. 32 (1985) 230, without their band-pass.
 */
export function beats(options: BeatOptions, emit: Emit<Beat>, m: BeatMemory = noBeats()): Detector {
  const { refractoryS, memoryS, level, minHeight, fromRest = false } = options;
  if (!(level > 0 && level < 1))
    throw new RangeError(`The level must lie between 0 and 1; received ${level}.`);
  if (!(memoryS > 0)) throw new RangeError(`The memory must be above 0 s; received ${memoryS}.`);
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      if (Number.isNaN(m.high)) {
        Object.assign(m, { high: x, low: x, t0: t, x0: x });
        return;
      }
      const forget = 1 - Math.exp(-Math.max(0, t - m.t0) / memoryS);
      const middle = (m.high + m.low) / 2;
      m.high = Math.max(x, m.high + (middle - m.high) * forget);
      m.low = Math.min(x, m.low + (middle - m.low) * forget);
      const height = m.high - m.low;
      const expected = fromRest ? Math.max(height, minHeight) : height;
      const threshold = m.low + level * expected;
      if (x < m.low + REARM * level * expected) {
        m.armed = true;
        m.pending = null;
      }
      if (m.armed && (fromRest || height >= minHeight) && m.x0 < threshold && x >= threshold) {
        const timeS = crossingTime(m.t0, m.x0, t, x, threshold);
        if (m.last === null || timeS - m.last >= refractoryS)
          m.pending = { timeS, rise: x - m.x0, riseBefore: m.x0 - m.before };
      }
      if (m.pending && height >= minHeight) {
        const { last } = m;
        emit({
          ...m.pending,
          grewS: Math.max(0, m.t0 - m.pending.timeS),
          intervalS: last === null ? null : m.pending.timeS - last,
          height,
        });
        m.last = m.pending.timeS;
        m.pending = null;
        m.armed = false;
      }
      m.before = m.x0;
      m.t0 = t;
      m.x0 = x;
    },
    finish() {},
  };
}
