import { describe, expect, it } from 'vitest';
import { seededRandom } from '../src/numerics/index.ts';
import { stretchShape } from '../src/study/index.ts';

const RATE = 100;
function samples(n: number, at: (t: number, i: number) => number) {
  const times = Float64Array.from({ length: n }, (_, i) => i / RATE);
  return { times, values: times.map((t, i) => at(t, i)) };
}
const swingOf = (n: number, at: (t: number, i: number) => number) => {
  const shape = stretchShape(samples(n, at), 'g');
  if (typeof shape === 'string') throw new Error(shape);
  return shape.facts.find((f) => f.title === 'Strongest oscillation')!.text;
};

describe('how the readings of a stretch lie', () => {
  it('finds a swing between the lines of the spectrum, with its height', () => {
    for (const hz of [3, 7.33, 21.7]) {
      const random = seededRandom(5);
      const told = swingOf(6000, (t) => 4 + 0.8 * Math.sin(2 * Math.PI * hz * t) + 0.05 * random.normal());
      const [, height, at] = /^amplitude ([\d.]+) g at ([\d.]+) Hz$/.exec(told)!;
      expect(Math.abs(Number(height) / 0.8 - 1)).toBeLessThan(0.05);
      expect(Math.abs(Number(at) / hz - 1)).toBeLessThan(0.01);
    }
  });

  it('names none in noise, in a ramp or in readings that are all the same', () => {
    const random = seededRandom(6);
    expect(swingOf(6000, () => random.normal())).toBe('none found');
    expect(swingOf(6000, (t) => t)).toBe('none found');
    expect(swingOf(600, () => 3)).toBe('none found');
  });

  it('counts each reading of the longest part without a gap once', () => {
    const shape = stretchShape(
      samples(1000, (_, i) => (i === 300 ? Number.NaN : i % 7)),
      'g',
    );
    if (typeof shape === 'string') throw new Error(shape);
    const [histogram] = shape.plots;
    const { y } = histogram.series[0]!;
    expect(y.reduce((s, v, i) => s + (i % 2 ? v : 0), 0)).toBe(699);
  });

  it('says what is missing of too few', () => {
    expect(
      stretchShape(
        samples(20, () => 1),
        'g',
      ),
    ).toMatch(/20 consecutive readings.*32 are needed/);
  });
});
