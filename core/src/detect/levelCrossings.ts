import { crossingTime, type Detector, type Emit } from './detector.ts';
import { checkConfirmation, confirm, nothingConfirmed, type ConfirmMemory } from './gates.ts';

export interface Crossing {
  /** Between samples, by a straight line. */
  readonly timeS: number;
  readonly direction: 'rising' | 'falling';
  /** Slope there, per second: the timing's noise is the signal's noise over the size of this. */
  readonly slope: number;
  /** Rises between the samples around it, and between the two before: a step has none before it. */
  readonly rise: number;
  readonly riseBefore: number;
  readonly stepS: number;
  /** The sample before it, s. */
  readonly beforeS: number;
  /** Whether so many readings stayed beyond as were wanted. */
  readonly confirmed: boolean;
}

export interface CrossingOptions {
  readonly level: number;
  /** Whole width of the band about the level, 0 or more. */
  readonly hysteresis: number;
  /** So many of so many readings must lie beyond the band; 1 of 1 when not given. */
  readonly n?: number;
  readonly m?: number;
}

export interface CrossingMemory {
  t0: number;
  x0: number;
  before: number;
  /** The last side of the band that the signal was surely on. */
  side: number;
  pending: Omit<Crossing, 'confirmed'> | null;
  confirm: ConfirmMemory;
}

export const noCrossings = (): CrossingMemory => ({
  t0: Number.NaN,
  x0: Number.NaN,
  before: Number.NaN,
  side: 0,
  pending: null,
  confirm: nothingConfirmed(),
});

/**
 * Crossings of a level. A rising one counts only after the signal was below the band of the hysteresis, a falling one after
 * it was above, so noise at the level is one crossing, not many; and only once n of m readings lay beyond the band, so that
 * something small that passes is none. Those that were not confirmed are told as such.
 * @throws {RangeError} for a negative hysteresis, or a confirmation that cannot be
 */
export function levelCrossings(
  { level, hysteresis, n = 1, m: of = 1 }: CrossingOptions,
  emit: Emit<Crossing>,
  m: CrossingMemory = noCrossings(),
): Detector {
  if (!(hysteresis >= 0)) throw new RangeError(`Enter a hysteresis of 0 or more; received ${hysteresis}.`);
  checkConfirmation({ n, m: of });
  /** What came back to the side it was on is no crossing. */
  const giveUp = (now: number) => {
    if (!m.pending || now !== m.side) return;
    if (of > 1) emit({ ...m.pending, confirmed: false });
    m.pending = null;
  };
  return {
    push(t, x) {
      if (Number.isNaN(x)) return;
      const now = x > level + hysteresis / 2 ? 1 : x < level - hysteresis / 2 ? -1 : 0;
      if (!Number.isNaN(m.x0) && m.x0 < level !== x < level) {
        const direction = x >= level ? 'rising' : 'falling';
        // The last way through the level is its time, as long as nothing lay beyond the band yet.
        if (m.side === (direction === 'rising' ? -1 : 1) && (m.pending === null || m.confirm.yes === 0)) {
          m.pending = {
            timeS: crossingTime(m.t0, m.x0, t, x, level),
            direction,
            slope: (x - m.x0) / (t - m.t0),
            rise: x - m.x0,
            riseBefore: m.x0 - m.before,
            stepS: t - m.t0,
            beforeS: m.t0,
          };
        }
      }
      if (m.side === 0) m.side = now;
      else if (now === -m.side || m.confirm.yes > 0) {
        const answer = confirm({ n, m: of }, m.confirm, now === -m.side);
        if (answer === 'yes') {
          if (m.pending) emit({ ...m.pending, confirmed: true });
          m.side = -m.side;
          m.pending = null;
        } else if (answer === 'no') giveUp(now);
      } else giveUp(now);
      m.before = m.x0;
      m.t0 = t;
      m.x0 = x;
    },
    finish() {},
  };
}
