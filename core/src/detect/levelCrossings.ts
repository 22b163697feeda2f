import { crossingTime, type Detector, type Emit } from './detector.ts';

export interface Crossing {
  /** Between samples, by a straight line. */
  readonly timeS: number;
  readonly direction: 'rising' | 'falling';
  /** Slope there, per second: the timing's noise is the signal's noise over the size of this. */
  readonly slope: number;
}

/**
 * Crossings of a level. A rising one counts only after the signal was below the band of the hysteresis, a falling one after
 * it was above, so noise at the level is one crossing, not many.
 * @param hysteresis whole width of the band about the level, 0 or more
 * @throws {RangeError} for a negative hysteresis
 */
export function levelCrossings(level: number, hysteresis: number, emit: Emit<Crossing>): Detector {
  if (!(hysteresis >= 0)) throw new RangeError(`The hysteresis must be 0 or more; received ${hysteresis}.`);
  let t0 = Number.NaN;
  let x0 = Number.NaN;
  // The last side of the band that the signal was surely on.
  let side = 0;
  let pending: Crossing | null = null;
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      if (!Number.isNaN(x0) && x0 < level !== x < level) {
        const direction = x >= level ? 'rising' : 'falling';
        if (side === (direction === 'rising' ? -1 : 1))
          pending = { timeS: crossingTime(t0, x0, t, x, level), direction, slope: (x - x0) / (t - t0) };
      }
      const now = x > level + hysteresis / 2 ? 1 : x < level - hysteresis / 2 ? -1 : 0;
      // A crossing is certain once the signal comes out on the other side; the last way through the level is its time.
      if (now !== 0 && now !== side) {
        if (pending && side !== 0) emit(pending);
        pending = null;
        side = now;
      }
      t0 = t;
      x0 = x;
    },
    finish() {},
  };
}
