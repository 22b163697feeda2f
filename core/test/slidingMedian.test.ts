import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { centredMedian, sortedWindow } from '../src/filters/index.ts';

/** By the definition: the middle of the sorted window, the ends repeated. */
function plain(x: readonly number[], width: number): number[] {
  const half = (width - 1) / 2;
  const at = (i: number) => x[Math.min(x.length - 1, Math.max(0, i))]!;
  return x.map(
    (_, i) => Array.from({ length: width }, (_v, k) => at(i - half + k)).toSorted((a, b) => a - b)[half]!,
  );
}

describe('a centred median', () => {
  it('is the middle of each window, with few values or many, equal or not, and widths beyond the column', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.integer({ min: 0, max: 4 }), fc.double({ noNaN: true, min: -9, max: 9 })), {
          minLength: 1,
          maxLength: 400,
        }),
        fc.integer({ min: 0, max: 60 }),
        (values, half) => {
          const width = 2 * half + 1;
          expect(Array.from(centredMedian(Float64Array.from(values), width))).toEqual(plain(values, width));
        },
      ),
      { numRuns: 300, seed: 3 },
    );
  });

  it('is what the running one gives half a window later', () => {
    const x = Float64Array.from({ length: 3000 }, (_, i) => 100 + Math.round(40 * Math.sin(i / 9) + (i % 7)));
    const window = sortedWindow(101);
    const running = Float64Array.from(x, (v) => {
      window.push(v);
      return window.median();
    });
    expect(Array.from(centredMedian(x, 101).subarray(50, 2900))).toEqual(
      Array.from(running.subarray(100, 2950)),
    );
  });
});
