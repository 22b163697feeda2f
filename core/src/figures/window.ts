/** The newest readings of a stretch of time; of very many every second one is let go. */
export interface WindowMemory {
  t: number[];
  x: number[];
  /** One of so many readings is kept. */
  every: number;
  skipped: number;
}

export const emptyWindow = (): WindowMemory => ({ t: [], x: [], every: 1, skipped: 0 });

const MOST = 4000;

/** @param lengthS 0 for all since the reset */
export function takeReading(m: WindowMemory, t: number, x: number, lengthS: number): void {
  if (++m.skipped >= m.every) {
    m.skipped = 0;
    m.t.push(t);
    m.x.push(x);
  }
  if (lengthS > 0) {
    let old = 0;
    while (m.t[old]! < t - lengthS) old++;
    // Now and then, since moving all down costs as much as there are.
    if (old > m.t.length / 4 || old > 64) {
      m.t.splice(0, old);
      m.x.splice(0, old);
    }
  }
  if (m.t.length <= MOST) return;
  m.t = m.t.filter((_, i) => i % 2 === 0);
  m.x = m.x.filter((_, i) => i % 2 === 0);
  m.every *= 2;
}

/** Those that lie within the stretch before the newest. */
export function within(m: WindowMemory, lengthS: number): { t: number[]; x: number[] } {
  if (lengthS === 0) return m;
  const from = m.t.findIndex((t) => t >= m.t.at(-1)! - lengthS);
  return from <= 0 ? m : { t: m.t.slice(from), x: m.x.slice(from) };
}
