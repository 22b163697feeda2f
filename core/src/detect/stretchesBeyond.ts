import { detectAll } from './detector.ts';
import { pulses, type Pulse } from './pulses.ts';

export interface BeyondRule {
  readonly side: 'above' | 'below';
  readonly level: number;
  /** How far it must come back past the level before the stretch has ended, in the reading's unit; 0 or more. */
  readonly comesBack: number;
}

export interface BeyondStretch {
  readonly startS: number;
  readonly endS: number;
  /** Highest reading above a level, lowest below one. */
  readonly extreme: number;
  readonly extremeS: number;
  /** It was beyond already at the first reading, or still at the last: the stretch may be longer. */
  readonly cutShort: boolean;
}

/**
 * Stretches of a whole reading that lie above or below a level, from crossing to crossing by straight lines between samples.
 * Samples that are not numbers are passed over. Unlike a live detector it also counts what begins or ends the recording.
 * @throws {RangeError} for a negative comesBack
 */
export function stretchesBeyond(
  times: ArrayLike<number>,
  values: ArrayLike<number>,
  { side, level, comesBack }: BeyondRule,
): BeyondStretch[] {
  const sign = side === 'above' ? 1 : -1;
  let first = 0;
  while (first < values.length && Number.isNaN(values[first]!)) first++;
  if (first === values.length) return [];
  const beginsBeyond = sign * values[first]! >= sign * level;
  const found = detectAll<Pulse>(
    (emit) => {
      const detector = pulses(sign * level, comesBack, emit);
      // A moment's rest within the level gives the first reading something to rise from.
      detector.push(times[first]!, sign * level - comesBack - 1);
      return { push: (t, x) => detector.push(t, sign * x), finish: () => detector.finish() };
    },
    times,
    values,
  );
  return found.map(({ startS, endS, peak, peakS, open }, i) => ({
    startS,
    endS,
    extreme: sign * peak,
    extremeS: peakS,
    cutShort: open || (i === 0 && beginsBeyond),
  }));
}
