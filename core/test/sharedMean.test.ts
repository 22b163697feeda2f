import { describe, expect, it } from 'vitest';
import { sharedMean, weightedMean } from '../src/calibrate/guided/weightedMean.ts';
import { seededRandom } from '../src/numerics/index.ts';

describe('a mean of what was read against one reference', () => {
  /** How often twice the uncertainty holds what is true, of eight readings each. */
  function coverage(uOwn: number, uReference: number): { shared: number; plain: number } {
    const random = seededRandom(23);
    const trials = 500;
    let [shared, plain] = [0, 0];
    for (let k = 0; k < trials; k++) {
      const wrong = uReference * random.normal();
      const each = Array.from({ length: 8 }, () => ({
        value: wrong + uOwn * random.normal(),
        uOwn,
        uReference,
      }));
      const one = sharedMean(each);
      if (Math.abs(one.value) <= 2 * one.u) shared++;
      const other = weightedMean(each.map((e) => ({ value: e.value, u: Math.hypot(e.uOwn, e.uReference) })));
      if (Math.abs(other.value) <= 2 * other.u) plain++;
    }
    return { shared: shared / trials, plain: plain / trials };
  }

  it('holds what is true however the two share', () => {
    for (const [own, reference] of [
      [0.1, 1],
      [1, 1],
      [1, 0.1],
    ] as const) {
      const { shared } = coverage(own, reference);
      expect(shared).toBeGreaterThan(0.92);
      expect(shared).toBeLessThan(0.985);
    }
    // As if the reference were another one each time.
    expect(coverage(0.1, 1).plain).toBeLessThan(0.6);
  });

  it('is the plain mean where the reference is perfect', () => {
    const each = [1, 2, 4].map((value, i) => ({ value, uOwn: 3 + i, uReference: 0 }));
    const plain = weightedMean(each.map((e) => ({ value: e.value, u: e.uOwn })));
    expect(sharedMean(each).value).toBeCloseTo(plain.value, 12);
    expect(sharedMean(each).u).toBeCloseTo(plain.u, 12);
  });

  it('widens by what the values differ beyond it all', () => {
    const each = [0, 10, 0, 10].map((value) => ({ value, uOwn: 0.1, uReference: 0.1 }));
    expect(sharedMean(each).u).toBeGreaterThan(2);
  });
});
