import { describe, expect, it } from 'vitest';
import { stretchesBeyond } from '../src/detect/index.ts';

const over = (values: readonly number[], side: 'above' | 'below', level: number, comesBack = 0) =>
  stretchesBeyond(
    values.map((_, i) => i),
    values,
    { side, level, comesBack },
  );

describe('stretches beyond a level', () => {
  it('go from crossing to crossing, with their highest', () => {
    expect(over([0, 0, 4, 8, 4, 0, 0], 'above', 2)).toEqual([
      { startS: 1.5, endS: 4.5, extreme: 8, extremeS: 3, cutShort: false },
    ]);
  });

  it('below a level are the same of the reading turned over', () => {
    const values = [3, 1, -5, 2, 9, -1, -2, 7];
    const above = over(
      values.map((v) => -v),
      'above',
      -1.5,
    );
    const below = over(values, 'below', 1.5);
    expect(below.length).toBe(2);
    expect(below).toEqual(above.map((s) => ({ ...s, extreme: -s.extreme })));
  });

  it('need not come back for a ripple smaller than the one allowed', () => {
    const rippled = [0, 5, 2.9, 5, 2.9, 5, 0];
    expect(over(rippled, 'above', 3)).toHaveLength(3);
    expect(over(rippled, 'above', 3, 0.5)).toHaveLength(1);
    expect(() => over(rippled, 'above', 3, -1)).toThrow(/hysteresis of 0 or more; received -1/);
  });

  it('count where the reading begins or ends beyond, and say that they may be longer', () => {
    expect(over([Number.NaN, 5, 0, 0, 6, 7], 'above', 1)).toEqual([
      { startS: 1, endS: 1.8, extreme: 5, extremeS: 1, cutShort: true },
      { startS: expect.closeTo(3 + 1 / 6, 9) as number, endS: 5, extreme: 7, extremeS: 5, cutShort: true },
    ]);
  });

  it('are the same wherever time starts, and none in an empty or bad reading', () => {
    const values = [0, 2, 5, 1, 0, 4, 0];
    const late = stretchesBeyond(
      values.map((_, i) => 1000 + i),
      values,
      { side: 'above', level: 1.5, comesBack: 0.2 },
    );
    const plain = over(values, 'above', 1.5, 0.2);
    expect(late.map((s) => [s.startS - 1000, s.endS - 1000])).toEqual(plain.map((s) => [s.startS, s.endS]));
    expect(over([], 'above', 0)).toEqual([]);
    expect(over([Number.NaN, Number.NaN], 'above', 0)).toEqual([]);
    expect(over([5, 5, 5], 'above', 1)).toEqual([
      { startS: 0, endS: 2, extreme: 5, extremeS: 0, cutShort: true },
    ]);
  });
});
