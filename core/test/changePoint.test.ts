import { describe, expect, it } from 'vitest';
import { seededRandom } from '../src/numerics/index.ts';
import { changePoint } from '../src/trial/index.ts';

/** Results with what changes at each, and scatter of one. */
function series(
  seed: number,
  n: number,
  level: (i: number) => number,
  label: (i: number) => string = () => '',
) {
  const random = seededRandom(seed);
  return Array.from({ length: n }, (_, i) => ({ label: label(i), value: level(i) + random.normal() }));
}

describe('where results changed', () => {
  it('is found near the change, with an interval that holds it', () => {
    let [found, near, held] = [0, 0, 0];
    for (let seed = 1; seed <= 40; seed++) {
      const change = changePoint(series(seed, 40, (i) => (i < 22 ? 50 : 52.5)));
      if (!change) continue;
      found++;
      if (Math.abs(change.at - 22) <= 4) near++;
      if (Math.abs(change.by - 2.5) <= change.half95) held++;
    }
    // Now and then a straight line through the scatter fits as well.
    expect(found).toBeGreaterThanOrEqual(38);
    expect(near).toBe(found);
    // The split is the largest that there is, so that it promises a little much.
    expect(held).toBeGreaterThanOrEqual(32);
  });

  it('is told of scatter alone in about one of twenty', () => {
    let told = 0;
    for (let seed = 1; seed <= 100; seed++) if (changePoint(series(seed, 30, () => 50))) told++;
    expect(told).toBeLessThanOrEqual(11);
  });

  it('is none of a steady trend, of what labels explain, and of few', () => {
    expect(changePoint(series(1, 40, (i) => 50 + 0.3 * i))).toBeNull();
    const byLabel = (i: number) => (i % 2 === 0 ? 'red' : 'blue');
    expect(changePoint(series(2, 40, (i) => (i % 2 === 0 ? 50 : 70), byLabel))).toBeNull();
    expect(changePoint(series(3, 7, (i) => (i < 3 ? 50 : 99)))).toBeNull();
    expect(changePoint([])).toBeNull();
    expect(changePoint(Array.from({ length: 20 }, () => ({ label: '', value: 5 })))).toBeNull();
    // In both of two labels alike it is one all the same.
    const both = changePoint(series(4, 60, (i) => (i % 2 === 0 ? 50 : 70) + (i < 30 ? 0 : 3), byLabel));
    expect(Math.abs(both!.at - 30)).toBeLessThanOrEqual(3);
  });

  it('is the same however large the level is, and in another unit', () => {
    const results = series(5, 40, (i) => (i < 20 ? 0 : 3));
    const found = changePoint(results)!;
    const moved = changePoint(results.map((r) => ({ ...r, value: 1e9 + 1000 * r.value })))!;
    expect(moved.at).toBe(found.at);
    expect(moved.by / 1000).toBeCloseTo(found.by, 4);
  });
});
