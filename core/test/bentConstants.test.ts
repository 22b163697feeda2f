import { describe, expect, it } from 'vitest';
import { compileLine, lineUncertainty } from '../src/line/index.ts';
import type { LineSpec } from '../src/model/line.ts';
import { normalCdf } from '../src/numerics/index.ts';
import { bentConstants } from '../src/prove/bentConstants.ts';

const CONTEXT = { sampleRateHz: 10 };
const lineWith = (kind: string, params: object, uncertainty: Record<string, number>) =>
  compileLine(
    {
      sources: [{ column: 'a', unit: kind === 'linear' ? 'V' : '1' }],
      stages: [{ id: 's', kind, params, uncertainty, off: false }],
    } as unknown as LineSpec,
    CONTEXT,
  );

describe('constants that a line bends within', () => {
  it('are left to first order where it is straight', () => {
    const line = lineWith('linear', { slope: 3, intercept: 1, to: 'mm' }, { slope: 0.05, intercept: 0.1 });
    expect(bentConstants(line, 2, null)).toBeNull();
    expect(bentConstants(lineWith('linear', { slope: 3, intercept: 1, to: 'mm' }, {}), 2, null)).toBeNull();
  });

  it('widen what first order says: an exponent of a gas curve', () => {
    const sd = 0.25;
    const line = lineWith('power-law', { factor: 100, exponent: -2, to: 'ppm' }, { exponent: sd });
    const raw = 0.2;
    const first = lineUncertainty(line, raw, 0).at(-1)!.systematic;
    const drawn = bentConstants(line, raw, null)!;
    // The reading is log-normal; its shortest 95 % interval by a fine grid over where it begins.
    const reading = 100 * raw ** -2;
    const s = sd * Math.abs(Math.log(raw));
    const share = (low: number, high: number) => normalCdf(Math.log(high) / s) - normalCdf(Math.log(low) / s);
    let best = [0, Infinity];
    for (let low = 0.01; low < 1; low += 0.002) {
      let high = low;
      while (high < 20 && share(low, high) < 0.95) high += 0.005;
      if (high < 20 && high - low < best[1]! - best[0]!) best = [low, high];
    }
    expect(drawn / ((reading * (best[1]! - 1)) / 1.96)).toBeCloseTo(1, 1);
    expect(drawn / first).toBeGreaterThan(1.05);
    expect(bentConstants(line, raw, null)).toBe(drawn);
  });

  it('are not known where they may be such that the line gives no number', () => {
    const line = lineWith('divider', { seriesOhm: 10_000, side: 'top' }, { seriesOhm: 6000 });
    expect(bentConstants(line, 0.5, null)).toBeNaN();
  });
});
