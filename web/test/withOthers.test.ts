import { describe, expect, it } from 'vitest';
import type { FigureSpec } from '@lucky-needle/core/model';
import { withOthers } from '../src/pages/line/counts/withOthers.ts';

const figure: FigureSpec = {
  id: 'f',
  kind: 'less-others',
  name: 'F',
  watches: {},
  others: ['b', 'c'],
  params: { own: 1, weights: [-0.1, -0.2], doubts: [0, 0.01, 0.02], to: 'ppm' },
  askId: null,
};

describe('other channels beside a figure', () => {
  it('keep their numbers when one goes from the middle or comes', () => {
    expect(withOthers(figure, ['c'])).toEqual({
      others: ['c'],
      params: { own: 1, weights: [-0.2], doubts: [0, 0.02], to: 'ppm' },
    });
    expect(withOthers(figure, ['b', 'c', 'd']).params).toEqual({
      own: 1,
      weights: [-0.1, -0.2, 0],
      doubts: [0, 0.01, 0.02, 0],
      to: 'ppm',
    });
  });

  it('leave alone what has no number for each', () => {
    const other = { ...figure, params: { steps: [1, 2, 3, 4, 5], name: 'x' } };
    expect(withOthers(other, []).params).toEqual(other.params);
  });
});
