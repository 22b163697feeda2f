import { crossingTime, type Detector, type Emit } from './detector.ts';

export interface Beat {
  /** Rising crossing of the adaptive level, between samples. */
  readonly timeS: number;
  /** Since the last beat; null for the first. */
  readonly intervalS: number | null;
  /** The envelope's height then, in the signal's unit. */
  readonly height: number;
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
}

/** Below this share of the level a beat may come again. */
export const REARM = 0.6;

/**
 * Beats or strokes by an adaptive level: an upper and a lower envelope follow the signal at once outwards and sink together
 * slowly; a beat is a rising crossing of the level between them, re-armed below a lower one, with a refractory time.
 * Source: the principle of Pan and Tompkins, IEEE Trans. Biomed. Eng. 32 (1985) 230, without their band-pass.
 */
export function beats(options: BeatOptions, emit: Emit<Beat>): Detector {
  const { refractoryS, memoryS, level, minHeight } = options;
  if (!(level > 0 && level < 1))
    throw new RangeError(`The level must lie between 0 and 1; received ${level}.`);
  if (!(memoryS > 0)) throw new RangeError(`The memory must be above 0 s; received ${memoryS}.`);
  let high = Number.NaN;
  let low = Number.NaN;
  let t0 = Number.NaN;
  let x0 = Number.NaN;
  let armed = false;
  let last: number | null = null;
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      if (Number.isNaN(high)) {
        [high, low, t0, x0] = [x, x, t, x];
        return;
      }
      const forget = 1 - Math.exp(-Math.max(0, t - t0) / memoryS);
      const middle = (high + low) / 2;
      high = Math.max(x, high + (middle - high) * forget);
      low = Math.min(x, low + (middle - low) * forget);
      const height = high - low;
      const threshold = low + level * height;
      if (x < low + REARM * level * height) armed = true;
      if (armed && height >= minHeight && x0 < threshold && x >= threshold) {
        const timeS = crossingTime(t0, x0, t, x, threshold);
        if (last === null || timeS - last >= refractoryS) {
          emit({ timeS, intervalS: last === null ? null : timeS - last, height });
          last = timeS;
          armed = false;
        }
      }
      t0 = t;
      x0 = x;
    },
    finish() {},
  };
}
