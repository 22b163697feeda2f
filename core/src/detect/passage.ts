/** How long a level took to be passed: what its trackers remember, s. */
export interface PassageMemory {
  /** When the reading was last surely on the near side, and on the far side. */
  nearS: number;
  farS: number;
  /** Since the crossing: when it was last surely on the near side before, and first surely on the far side after. */
  fromS: number;
  toS: number;
}

export const noPassage = (): PassageMemory => ({
  nearS: Number.NaN,
  farS: Number.NaN,
  fromS: Number.NaN,
  toS: Number.NaN,
});

/** Standard deviations of noise that make sure of a side: about one reading of thirty thousand is further off. */
const SURE = 4;
/** A crossing found in noise lies anywhere within this share of the passage, as a standard uncertainty. */
const SHARE = 1 / 4;

/**
 * Tells what the moment of a crossing is worth where the signal is slow beside its noise: two neighbouring readings then
 * tell of the noise alone, but the time that it took from surely before to surely behind tells of both.
 * @param sign 1 where the far side is above the level, -1 where it is below
 */
export function passage(sign: number, level: number, noise: (near: number) => number, m: PassageMemory) {
  return {
    /** Before the detector takes the same reading. */
    push(t: number, x: number): void {
      const far = sign * (x - level);
      const band = SURE * (noise(level) || 0);
      if (far <= -band) m.nearS = t;
      if (far >= band) {
        m.farS = t;
        if (Number.isNaN(m.toS)) m.toS = t;
      }
    },
    /** The level was passed to the far side just now. @param t of the newest reading */
    begins(t: number): void {
      m.fromS = m.nearS;
      m.toS = m.farS === t ? t : Number.NaN;
    },
    /** Of the crossing that `begins` was told of, s; 0 where nothing came before. @param t of the newest reading */
    uBegin: (t: number): number => SHARE * ((Number.isNaN(m.toS) ? t : m.toS) - m.fromS) || 0,
    /** Of a crossing back to the near side that ended just now, s. @param beginS when it had come to the far side */
    uEnd: (t: number, beginS: number): number => SHARE * (t - (m.farS >= beginS ? m.farS : beginS)),
  };
}
