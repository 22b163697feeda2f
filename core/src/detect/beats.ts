import { checkConfirmation, confirm, nothingConfirmed, type ConfirmMemory, type NOfM } from './gates.ts';
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
  /** Where it lies between the two samples around it, 0 to 1. */
  readonly share: number;
  /** How long it grew until it was one, s: so far its moment may lie beside that of the others, which is by their height. */
  readonly grewS: number;
}

export interface BeatOptions extends Partial<NOfM> {
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
  /** Whether the last sample lay below the level as it was then: the level moves. */
  under: boolean;
  /** A crossing that has not grown to the height of a beat yet. */
  pending: (Omit<Beat, 'intervalS' | 'height'> & { grewS: number; confirmed: boolean }) | null;
  confirm: ConfirmMemory;
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
  under: false,
  pending: null,
  confirm: nothingConfirmed(),
  armed: false,
  last: null,
});

/** Below this share of the level a beat may come again. */
export const REARM = 0.6;

/**
 * Beats or strokes by an adaptive level: an upper and a lower envelope follow the signal at once outwards and sink together
 * slowly; a beat is a rising crossing of the level between them, re-armed below a lower one, with a refractory time.
 * With a confirmation, n of the m readings from the crossing on must lie above the level.
 * Source: the principle of Pan and Tompkins, IEEE Trans. Biomed. Eng. 32 (1985) 230, without their band-pass.
 */
export function beats(
  options: BeatOptions,
  emit: Emit<Beat>,
  m: BeatMemory = noBeats(),
  fails: (timeS: number) => void = () => undefined,
): Detector {
  const { refractoryS, memoryS, level, minHeight, fromRest = false, n = 1, m: of = 1 } = options;
  if (!(level > 0 && level < 1))
    throw new RangeError(`Enter a level above 0 and below 1; received ${level}.`);
  checkConfirmation({ n, m: of });
  if (!(memoryS > 0)) throw new RangeError(`Enter a memory above 0 s; received ${memoryS}.`);
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
        if (m.pending?.confirmed) m.pending = null;
      }
      const rises = (m.under || m.x0 < threshold) && x >= threshold;
      if (m.armed && (fromRest || height >= minHeight) && rises) {
        const timeS = Math.max(m.t0, crossingTime(m.t0, m.x0, t, x, threshold));
        const isOver = m.pending === null || m.pending.confirmed;
        if (isOver && (m.last === null || timeS - m.last >= refractoryS)) {
          const [rise, riseBefore] = [x - m.x0, m.x0 - m.before];
          const share = (timeS - m.t0) / (t - m.t0);
          m.pending = { timeS, rise, riseBefore, share, grewS: Number.NaN, confirmed: false };
        }
      }
      if (m.pending && height >= minHeight && Number.isNaN(m.pending.grewS))
        m.pending.grewS = Math.max(0, m.t0 - m.pending.timeS);
      if (m.pending && !m.pending.confirmed) {
        const answer = confirm({ n, m: of }, m.confirm, x >= threshold);
        m.pending.confirmed = answer === 'yes';
        if (answer === 'no') {
          fails(m.pending.timeS);
          m.pending = null;
        }
      }
      if (m.pending?.confirmed && height >= minHeight) {
        const { last } = m;
        const { timeS, rise, riseBefore, share, grewS } = m.pending;
        emit({
          timeS,
          rise,
          riseBefore,
          share,
          grewS,
          intervalS: last === null ? null : timeS - last,
          height,
        });
        m.last = timeS;
        m.pending = null;
        m.armed = false;
      }
      m.under = x < threshold;
      m.before = m.x0;
      m.t0 = t;
      m.x0 = x;
    },
    finish() {},
  };
}
