import { describe, expect, it } from 'vitest';
import { shownEnds } from '../src/pages/trueup/shownEnds.ts';
import type { PlotSeries } from '../src/parts/plotTypes.ts';

const series = (label: string, y: number[]): PlotSeries => ({
  label,
  x: y.map((_, k) => k),
  y,
  ink: 'muted',
  style: 'line',
});

describe('the ends of a plot of points', () => {
  it('are those of points and fit, however far off the line as bought lies', () => {
    const all = [series('Uncalibrated', [-500, 4095]), series('Fit', [9, 61])];
    expect(shownEnds([10, 60], all)).toEqual([9, 61]);
  });

  it('take in what was bought where it lies near them, and no number that is none', () => {
    expect(shownEnds([10, 60], [series('Uncalibrated', [5, 70, Number.NaN])])).toEqual([5, 70]);
    expect(shownEnds([10, 60], [series('Uncalibrated', [Number.NaN])])).toEqual([10, 60]);
  });

  it('stand apart for a single point', () => {
    const [low, high] = shownEnds([50], [series('Uncalibrated', [20, 55, 300])]);
    expect([low, high]).toEqual([20, 55]);
  });
});
