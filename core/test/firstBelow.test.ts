import { expect, it } from 'vitest';
import { firstBelow } from '../src/figures/firstBelow.ts';
import { seededRandom } from '../src/numerics/index.ts';

/** Root mean square of what the first crossing of a falling line is off by, over noise over slope; a reading falls by 1. */
function seen(noise: number): number {
  const random = seededRandom(9);
  const [runs, before] = [4000, Math.ceil(12 * noise) + 4];
  let squares = 0;
  for (let k = 0; k < runs; k++) {
    const phase = random.uniform();
    let last = Infinity;
    for (let i = -before; ; i++) {
      const x = -(i + phase) + noise * random.normal();
      if (x <= 0) {
        const at = last === Infinity ? i + phase : i + phase - 1 + last / (last - x);
        squares += at ** 2;
        break;
      }
      last = x;
    }
  }
  return Math.sqrt(squares / runs) / noise;
}

it.each([0.1, 0.5, 1, 2, 4, 8])(
  'is what the first crossing in noise is off by, at %s deviations a reading',
  (noise) => {
    expect(firstBelow(noise) / seen(noise)).toBeGreaterThan(0.85);
    expect(firstBelow(noise) / seen(noise)).toBeLessThan(1.15);
  },
);
