import { describe, expect, it } from 'vitest';
import { faceSpectrum, SPECTRUM_OF } from '../src/face/index.ts';
import { REASON } from '../src/stage/contract.ts';

const readings = (length: number, hz: number, bad: number | null = null) => ({
  times: Array.from({ length }, (_, k) => k / 100),
  values: Array.from({ length }, (_, k) => 5 + Math.sin((2 * Math.PI * hz * k) / 100)),
  reasons: Array.from({ length }, (_, k) => (k === bad ? REASON.waiting : REASON.ok)),
});
const strongest = ({ hz, size }: { readonly hz: readonly number[]; readonly size: readonly number[] }) =>
  hz[size.indexOf(Math.max(...size))]!;

describe('the spectrum of a face', () => {
  it.each([3, 12.5, 31])('is strongest at the %f Hz that the readings swing with', (hz) => {
    const told = faceSpectrum(readings(1000, hz))!;
    expect(Math.abs(strongest(told) - hz)).toBeLessThan(100 / 256);
    expect(told.hz.at(-1)).toBeCloseTo(50, 6);
    expect(told.hz[0]).toBeCloseTo(told.hz[1]! - told.hz[0]!, 9);
  });

  it('looks at the newest alone, and at none before a reading that is no reading', () => {
    const long = readings(SPECTRUM_OF + 3000, 20);
    long.values.fill(1e6, 0, 3000);
    expect(faceSpectrum(long)).toEqual(
      faceSpectrum({
        times: long.times.slice(3000),
        values: long.values.slice(3000),
        reasons: long.reasons.slice(3000),
      }),
    );
    const broken = readings(1000, 20, 800);
    broken.values[800] = Number.NaN;
    expect(strongest(faceSpectrum(broken)!)).toBeCloseTo(20, 0);
    expect(faceSpectrum(readings(1000, 20, 980))).toBeNull();
  });

  it('is not known of too few, nor where the clock stands still', () => {
    expect(faceSpectrum(readings(31, 20))).toBeNull();
    expect(faceSpectrum({ ...readings(100, 20), times: Array(100).fill(7) as number[] })).toBeNull();
  });
});
