/** What the estimate remembers. */
export interface NoiseMemory {
  before: number;
  last: number;
  /** Running middle of the sizes of second differences. */
  middle: number;
  n: number;
}

export const noNoise = (): NoiseMemory => ({ before: Number.NaN, last: Number.NaN, middle: 0, n: 0 });

/** Readings before the estimate is worth anything. */
const LEAST = 50;
/** A step of the running middle, as a share of itself. */
const STEP = 0.03;

/**
 * Standard deviation of single readings as they come, by a running middle of their second differences: a slope and a few
 * jumps hardly move it; a curve between neighbouring readings makes it larger, never smaller. NaN until it is known.
 */
export function streamNoise(m: NoiseMemory): { push(x: number): void; noise(): number } {
  return {
    push(x) {
      const bend = Math.abs(x - 2 * m.last + m.before);
      m.before = m.last;
      m.last = x;
      if (bend !== bend) return;
      m.n++;
      // The first ones by their mean, then up or down a little with each.
      if (m.n <= 10) m.middle += (bend - m.middle) / m.n;
      else {
        // Either way as often as the other: reckoned, since a branch that nobody can foretell costs more.
        const up = +(bend > m.middle);
        const down = +(bend < m.middle);
        m.middle = m.middle * (1 + STEP * (up - down)) + 1e-300 * up;
      }
    },
    noise: () => (m.n < LEAST ? Number.NaN : (1.4826 * m.middle) / Math.sqrt(6)),
  };
}
