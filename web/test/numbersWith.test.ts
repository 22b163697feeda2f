import { describe, expect, it } from 'vitest';
import { numbersWith, uncertaintyWith } from '../src/parts/numbersWith.ts';

const params = { own: 1, weights: [-0.1, -0.2], doubts: [0, 0.01, 0.02], to: 'ppm' };

describe('numbers for each of other channels', () => {
  it('stay with theirs when one goes from the middle or comes', () => {
    expect(numbersWith(params, ['b', 'c'], ['c'])).toEqual({
      own: 1,
      weights: [-0.2],
      doubts: [0, 0.02],
      to: 'ppm',
    });
    expect(numbersWith(params, ['b', 'c'], ['b', 'c', 'd'])).toEqual({
      own: 1,
      weights: [-0.1, -0.2, 0],
      doubts: [0, 0.01, 0.02, 0],
      to: 'ppm',
    });
  });

  it('take what they are good to along', () => {
    const u = { own: 0.1, 'weights.0': 0.2, 'weights.1': 0.3 };
    expect(uncertaintyWith(u, ['b', 'c'], ['c'])).toEqual({ own: 0.1, 'weights.0': 0.3 });
    expect(uncertaintyWith(u, ['b', 'c'], ['a', 'b', 'c'])).toEqual({
      own: 0.1,
      'weights.1': 0.2,
      'weights.2': 0.3,
    });
  });

  it('leave alone what has no number for each', () => {
    const other = { steps: [1, 2, 3, 4, 5], name: 'x' };
    expect(numbersWith(other, ['b', 'c'], [])).toEqual(other);
  });
});
