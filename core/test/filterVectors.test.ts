import { describe, expect, it } from 'vitest';
import {
  butterworthSections,
  centredMean,
  centredMedian,
  filterSections,
  firFilter,
  firTaps,
  notchSection,
  sectionResponse,
  smoothColumn,
  zeroPhaseSections,
} from '../src/filters/index.ts';
import { interpolant, lineWithBothErrors, welch } from '../src/numerics/index.ts';
import { cases } from './support/vectors.ts';

/** Largest difference over the span of the expected column. */
function worst(ours: ArrayLike<number>, expected: readonly number[]): number {
  expect(ours.length).toBe(expected.length);
  const span = Math.max(...expected) - Math.min(...expected);
  return Math.max(...expected.map((v, i) => Math.abs(v - ours[i]!))) / span;
}

describe('Butterworth', () => {
  it.each(cases('butterworth'))('$kind, order $order, $cutoff_hz Hz', (c) => {
    const sections = butterworthSections(c.kind, c.order, c.cutoff_hz, c.sample_rate_hz);
    const x = Float64Array.from(c.input as number[]);
    c.freq_hz.forEach((f: number, i: number) => {
      const h = sectionResponse(sections, f, c.sample_rate_hz);
      expect(Math.abs(h.re - c.response.re[i])).toBeLessThan(1e-9);
      expect(Math.abs(h.im - c.response.im[i])).toBeLessThan(1e-9);
    });
    expect(worst(filterSections(sections, x, false), c.causal)).toBeLessThan(1e-7);
    expect(worst(filterSections(sections, x, true), c.causal_primed)).toBeLessThan(1e-7);
    expect(worst(zeroPhaseSections(sections, x), c.zero_phase)).toBeLessThan(1e-7);
  });
});

describe('notch', () => {
  it.each(cases('notch'))('$notch_hz Hz, q $q', (c) => {
    const s = notchSection(c.notch_hz, c.q, c.sample_rate_hz);
    expect(worst([s.b0, s.b1, s.b2], c.b)).toBeLessThan(1e-12);
    expect(worst([1, s.a1, s.a2], c.a)).toBeLessThan(1e-12);
    expect(worst(filterSections([s], Float64Array.from(c.input as number[]), false), c.causal)).toBeLessThan(
      1e-9,
    );
  });
});

describe('windowed sinc', () => {
  it.each(cases('fir'))('$taps_count taps, $window, $kind', (c) => {
    const taps = firTaps(c.taps_count, c.cutoff_hz, c.sample_rate_hz, c.window, c.kind);
    expect(worst(taps, c.taps)).toBeLessThan(1e-12);
    const x = Float64Array.from(c.input as number[]);
    const out = new Float64Array(x.length);
    firFilter(taps, false).block(x, out, 0, x.length);
    expect(worst(out, c.causal)).toBeLessThan(1e-12);
  });
});

describe('smoothing polynomial', () => {
  it.each(cases('savgol'))('width $width, degree $poly, derivative $derivative', (c) => {
    const out = smoothColumn(Float64Array.from(c.input as number[]), c.width, c.poly, c.derivative, c.dt);
    expect(worst(out, c.output)).toBeLessThan(1e-10);
  });
});

describe('centred windows', () => {
  it.each(cases('windowed'))('width $width', (c) => {
    const x = Float64Array.from(c.input as number[]);
    expect(Array.from(centredMedian(x, c.width))).toEqual(c.median);
    expect(worst(centredMean(x, c.width), c.mean)).toBeLessThan(1e-12);
  });
});

describe('spectrum', () => {
  it.each(cases('welch'))('$sample_rate_hz Hz, segments of $segment', (c) => {
    const spectrum = welch(c.input, c.sample_rate_hz, c.segment);
    expect(worst(spectrum.frequencyHz, c.freq_hz)).toBeLessThan(1e-12);
    c.psd.forEach((v: number, k: number) =>
      expect(Math.abs(spectrum.density[k]! / v - 1)).toBeLessThan(1e-9),
    );
  });
});

describe('curves through points', () => {
  const [c] = cases('interpolation');
  it.each(['linear', 'natural_cubic', 'not_a_knot_cubic', 'pchip', 'lagrange'])('%s', (name) => {
    const curve = interpolant(name.replaceAll('_', '-') as 'linear', c.x, c.y);
    expect(worst(c.at.map(curve.at), c[name])).toBeLessThan(1e-10);
    const h = 1e-4;
    for (const x of [401.3, 470.2, 602.7]) {
      const numeric = (curve.at(x + h) - curve.at(x - h)) / (2 * h);
      expect(curve.derivative(x)).toBeCloseTo(numeric, 6);
    }
  });
});

describe('line with uncertainty in both axes', () => {
  it.each(cases('errors_in_both'))('slope $slope', (c) => {
    const line = lineWithBothErrors(c.x, c.y, c.u_x, c.u_y);
    expect(line.converged).toBe(true);
    expect(Math.abs(line.slope / c.slope - 1)).toBeLessThan(1e-6);
    expect(Math.abs(line.intercept / c.intercept - 1)).toBeLessThan(1e-6);
    expect(Math.abs(line.chiSquareReduced / c.chi2_reduced - 1)).toBeLessThan(1e-6);
  });
});
