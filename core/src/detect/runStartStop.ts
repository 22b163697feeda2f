import { crossingTime, type Detector, type Emit } from './detector.ts';

export interface RunEvent {
  readonly kind: 'start' | 'stop';
  /** Interpolated crossing of the level that the run began or ended with. */
  readonly timeS: number;
}

/**
 * Start and stop of a run on motion: the start is the crossing of `startLevel` after which the signal stayed above it for
 * `holdS`; the stop is the crossing of `stopLevel` after which it stayed below.
 */
export function runStartStop(
  { startLevel, stopLevel, holdS }: { startLevel: number; stopLevel: number; holdS: number },
  emit: Emit<RunEvent>,
): Detector {
  if (!(startLevel >= stopLevel))
    throw new RangeError(
      `The start level must not be below the stop level; received ${startLevel} and ${stopLevel}.`,
    );
  let running = false;
  let candidate: number | null = null;
  let t0 = Number.NaN;
  let x0 = Number.NaN;
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      const level = running ? stopLevel : startLevel;
      const beyond = running ? x < level : x >= level;
      const was = running ? x0 < level : x0 >= level;
      if (!beyond) candidate = null;
      else if (candidate === null)
        candidate = Number.isNaN(x0) || was ? t : crossingTime(t0, x0, t, x, level);
      if (candidate !== null && t - candidate >= holdS) {
        emit({ kind: running ? 'stop' : 'start', timeS: candidate });
        running = !running;
        candidate = null;
      }
      t0 = t;
      x0 = x;
    },
    finish() {},
  };
}
