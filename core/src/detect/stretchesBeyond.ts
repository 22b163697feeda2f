import { detectAll, type Detector, type Emit } from './detector.ts';
import type { NOfM } from './gates.ts';
import { noPulses, pulses, type PulseListener, type PulseMemory } from './pulses.ts';

export interface BeyondRule extends Partial<NOfM> {
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

export interface BeyondMemory {
  beginsBeyond: boolean | null;
  pulses: PulseMemory;
}

export const noStretches = (): BeyondMemory => ({ beginsBeyond: null, pulses: noPulses() });

/**
 * Finds stretches that lie above or below a level, from crossing to crossing by straight lines between samples, as they come.
 * Samples that are not numbers are ignored. Unlike a live detector it also counts what begins or ends the recording.
 * @param listener told of each start as well
 * @throws {RangeError} for a negative comesBack, or a confirmation that cannot be
 */
export function beyond(
  { side, level, comesBack, n, m: of }: BeyondRule,
  emit: Emit<BeyondStretch>,
  m: BeyondMemory = noStretches(),
  listener: PulseListener = {},
): Detector {
  const sign = side === 'above' ? 1 : -1;
  const detector = pulses(
    { level: sign * level, hysteresis: comesBack, ...(n && of ? { n, m: of } : {}) },
    ({ startS, endS, peak, peakS, open }) => {
      emit({
        startS,
        endS,
        extreme: sign * peak,
        extremeS: peakS,
        cutShort: open || m.beginsBeyond === true,
      });
      m.beginsBeyond = false;
    },
    m.pulses,
    listener,
  );
  return {
    push(timeS, x) {
      if (Number.isNaN(x)) return;
      if (m.beginsBeyond === null) {
        m.beginsBeyond = sign * x >= sign * level;
        // A moment's rest within the level gives the first reading something to rise from.
        detector.push(timeS, sign * level - comesBack - 1);
      }
      detector.push(timeS, sign * x);
    },
    finish: () => detector.finish(),
  };
}

/** The same of a whole reading. @throws {RangeError} for a negative comesBack */
export const stretchesBeyond = (
  times: ArrayLike<number>,
  values: ArrayLike<number>,
  rule: BeyondRule,
): BeyondStretch[] => detectAll<BeyondStretch>((emit) => beyond(rule, emit), times, values);
