import { describe, expect, it } from 'vitest';
import { seededRandom, welch } from '../src/numerics/index.ts';

/** The definition, term by term. */
function plain(values: readonly number[], rate: number, segment: number): number[] {
  const window = Array.from({ length: segment }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / segment));
  const power = window.reduce((s, w) => s + w * w, 0);
  const half = Math.floor(segment / 2);
  const sums = Array<number>(half + 1).fill(0);
  let segments = 0;
  for (let from = 0; from + segment <= values.length; from += segment - half, segments++) {
    const piece = values.slice(from, from + segment);
    const mean = piece.reduce((s, v) => s + v, 0) / segment;
    sums.forEach((_, k) => {
      let [re, im] = [0, 0];
      piece.forEach((v, i) => {
        re += (v - mean) * window[i]! * Math.cos((2 * Math.PI * k * i) / segment);
        im -= (v - mean) * window[i]! * Math.sin((2 * Math.PI * k * i) / segment);
      });
      sums[k]! += re * re + im * im;
    });
  }
  return sums.map((v, k) => {
    const mirrored = k > 0 && !(segment % 2 === 0 && k === half);
    return ((mirrored ? 2 : 1) * v) / (segments * rate * power);
  });
}

describe('spectrum of segments of any length', () => {
  const random = seededRandom(12);
  const values = Array.from({ length: 700 }, (_, i) => 3 + Math.sin(0.4 * i) + random.normal());

  it.each([4, 5, 9, 100, 127, 128, 250, 699, 700])('%i', (segment) => {
    const { density, frequencyHz } = welch(values, 50, segment);
    const expected = plain(values, 50, segment);
    expect(density).toHaveLength(expected.length);
    expect(frequencyHz.at(-1)).toBeCloseTo((Math.floor(segment / 2) * 50) / segment, 12);
    const largest = Math.max(...expected);
    expected.forEach((v, k) => expect(Math.abs(density[k]! - v)).toBeLessThan(1e-10 * largest));
  });

  it('refuses a part of a sample and a segment longer than the data', () => {
    expect(() => welch(values, 50, 9.5)).toThrow(/whole number from 4; received 9.5/);
    expect(() => welch(values, 50, 701)).toThrow(/at least as much data; received 700/);
  });
});
