import { describe, expect, it } from 'vitest';
import { farFrom } from '../src/calibrate/index.ts';

describe('a reference far from what the line reads', () => {
  it('is far by a fifth of the range and ten times the tolerance, both', () => {
    expect(farFrom(20, 100, [0, 110], 1)).toBe(true);
    expect(farFrom(20, 40, [0, 110], 1)).toBe(false);
    // As bought a gain may be a tenth off: that is what a true-up is for.
    expect(farFrom(1400, 1550, [0, 1600], 25)).toBe(false);
    // Where a lot is allowed, a lot is near.
    expect(farFrom(0, 50, [0, 100], 10)).toBe(false);
  });

  it('is never far where nobody said how far the range goes, or nothing is read', () => {
    expect(farFrom(0, 1e6, null, 1)).toBe(false);
    expect(farFrom(Number.NaN, 5, [0, 10], 0.1)).toBe(false);
    expect(farFrom(0, 9, [0, 10], null)).toBe(true);
  });
});
