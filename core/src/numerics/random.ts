/** A seeded source of pseudo-random numbers: the same seed always gives the same sequence. */
export interface Random {
  /** Uniform in [0, 1). */
  uniform(): number;
  /** Normal with mean 0 and standard deviation 1. */
  normal(): number;
}

/**
 * Small fast generator (sfc32 by Chris Doty-Humphrey, public domain; passes PractRand to 4 TB), seeded through an integer hash.
 * @param seed any integer
 */
export function seededRandom(seed: number): Random {
  let a = mix(seed);
  let b = mix(seed + 0x9e3779b9);
  let c = mix(seed + 0x3c6ef372);
  let counter = 1;
  let spare: number | null = null;
  const uniform = () => {
    const t = (a + b + counter) | 0;
    counter = (counter + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = ((c << 21) | (c >>> 11)) + t;
    return (t >>> 0) / 4294967296;
  };
  for (let i = 0; i < 12; i++) uniform();
  return {
    uniform,
    // Marsaglia's polar method gives two at a time.
    normal() {
      if (spare !== null) {
        const value = spare;
        spare = null;
        return value;
      }
      for (;;) {
        const u = 2 * uniform() - 1;
        const v = 2 * uniform() - 1;
        const s = u * u + v * v;
        if (s > 0 && s < 1) {
          const factor = Math.sqrt((-2 * Math.log(s)) / s);
          spare = v * factor;
          return u * factor;
        }
      }
    },
  };
}

function mix(seed: number): number {
  let h = seed | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) | 0;
}
