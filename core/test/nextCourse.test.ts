import { describe, expect, it } from 'vitest';
import { nextCourse } from '../src/calibrate/index.ts';

describe('the next course to point along', () => {
  it.each([
    [[0], 180],
    [[350], 170],
    [[0, 180], 90],
    [[0, 90, 180], 270],
    [[10, 20], 195],
    [[-90, 90], 180],
    [[360, 0], 180],
  ])('after %j is %f', (kept, next) => {
    const told = nextCourse(kept)!;
    expect(told).toBeCloseTo(next, 9);
    // It lies no nearer to any of them than any other would at its best.
    const apart = (a: number, b: number) => Math.abs(((((a - b) % 360) + 540) % 360) - 180);
    const nearest = (c: number) => Math.min(...kept.map((k) => apart(c, k)));
    for (let c = 0; c < 360; c += 7) expect(nearest(told)).toBeGreaterThanOrEqual(nearest(c) - 1e-9);
  });

  it('is any while none was kept', () => {
    expect(nextCourse([])).toBeNull();
  });
});
