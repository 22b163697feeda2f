/**
 * A detector takes one sample after the other and emits events as soon as they are certain, so that a live stream and a
 * whole recording give the same events. Samples that are not numbers are ignored; `finish` settles what is still open.
 */
export interface Detector {
  push(timeS: number, x: number): void;
  finish(): void;
}

export type Emit<E> = (event: E) => void;

/** Runs a detector over a whole recording. */
export function detectAll<E>(
  make: (emit: Emit<E>) => Detector,
  times: ArrayLike<number>,
  values: ArrayLike<number>,
): E[] {
  const events: E[] = [];
  const detector = make((event) => events.push(event));
  for (let i = 0; i < times.length; i++) detector.push(times[i]!, values[i]!);
  detector.finish();
  return events;
}

/** Place where the straight line between two samples meets a level, s. */
export function crossingTime(t0: number, x0: number, t1: number, x1: number, level: number): number {
  return x1 === x0 ? t1 : t0 + ((level - x0) / (x1 - x0)) * (t1 - t0);
}
