import { describe, expect, it } from 'vitest';
import { compileLine, invertLine, readingAtRest, valuesAtRest } from '../src/line/index.ts';
import {
  chiSquareQuantile,
  fitPolynomial,
  fQuantile,
  normalQuantile,
  studentTQuantile,
} from '../src/numerics/index.ts';
import { boilingPointC, standardPressureHpa } from '../src/references/index.ts';
import { steinhartHart } from '../src/stages/steinhartHart.ts';
import { thermistorLine } from '../src/plan/index.ts';
import { fitCalibration, FITS } from '../src/calibrate/index.ts';
import { cases, relative } from './support/vectors.ts';

describe('quantiles', () => {
  it.each(cases('quantiles'))('$dist, df $df, p $p', ({ dist, df, p, q }) => {
    const ours = {
      t: () => studentTQuantile(p, df),
      chi2: () => chiSquareQuantile(p, df),
      f: () => fQuantile(p, df[0], df[1]),
      normal: () => normalQuantile(p),
    }[dist as 't' | 'chi2' | 'f' | 'normal']();
    expect(relative(ours, q)).toBeLessThan(1e-8);
  });
});

describe('boiling water', () => {
  it.each(cases('boiling_point'))(
    'elevation $elevation_m m, $pressure_hpa hPa',
    ({ elevation_m, pressure_hpa, boiling_c }) => {
      expect(Math.abs(boilingPointC(pressure_hpa) - boiling_c)).toBeLessThan(0.005);
      if (elevation_m !== undefined) {
        expect(Math.abs(boilingPointC(standardPressureHpa(elevation_m)) - boiling_c)).toBeLessThan(0.005);
      }
    },
  );
});

describe('thermistor in a divider by the beta equation', () => {
  it.each(cases('thermistor_beta'))('$r0_ohm ohm, series $series_side', (c) => {
    const base = thermistorLine('p');
    const params: Record<string, Record<string, number | string>> = {
      adc: { bits: c.adc_bits, referenceV: c.reference_v, gives: 'ratio' },
      divider: { seriesOhm: c.series_ohm, side: c.series_side },
      thermistor: { r0Ohm: c.r0_ohm, t0C: c.t0_c, betaK: c.beta_k },
    };
    const spec = { ...base, stages: base.stages.map((s) => ({ ...s, params: params[s.id] ?? s.params })) };
    const line = compileLine(spec, { sampleRateHz: 10 });
    c.t_c.forEach((celsius: number, i: number) => {
      const back = invertLine(line, celsius);
      expect(relative(back[2]!, c.thermistor_ohm[i])).toBeLessThan(1e-12);
      expect(relative(back[1]!, c.adc_fraction[i])).toBeLessThan(1e-12);
      expect(relative(back[0]!, c.counts[i])).toBeLessThan(1e-12);
      expect(readingAtRest(line, c.counts[i])).toBeCloseTo(celsius, 9);
    });
  });
});

describe('three-term thermistor', () => {
  const [c] = cases('steinhart_hart');
  const stage = steinhartHart.scalar!({ a: c.a, b: c.b, c: c.c });

  it('gives the temperatures and walks back to the resistances', () => {
    c.t_c.forEach((celsius: number, i: number) => {
      expect(stage.forward(c.ohm[i])).toBeCloseTo(celsius, 9);
      expect(relative(stage.inverse!(celsius), c.ohm[i])).toBeLessThan(1e-12);
    });
  });

  it('finds the three constants from three points, and the fourth point checks them', () => {
    const spec = thermistorLine('p');
    const line = compileLine(spec, { sampleRateHz: 10 });
    const points = [0, 1, 2].map((i) => {
      const ratio = c.ohm[i] / (c.ohm[i] + 3300);
      return { id: String(i), raw: ratio * 1023, uRaw: 1e-4, reference: c.t_c[i], uReference: 1e-3 };
    });
    const fit = fitCalibration(
      FITS.find((f) => f.id === 'steinhart-hart')!,
      spec,
      line.context,
      points,
    );
    if (typeof fit === 'string') throw new Error(fit);
    expect(fit.converged).toBe(true);
    const [a, b, cubic] = fit.parameters.map((p) => p.value);
    expect(relative(a!, c.a)).toBeLessThan(1e-7);
    expect(relative(b!, c.b)).toBeLessThan(1e-7);
    expect(relative(cubic!, c.c)).toBeLessThan(1e-6);
    expect(steinhartHart.scalar!({ a: a!, b: b!, c: cubic! }).forward(c.ohm[3])).toBeCloseTo(c.t_c[3], 5);
    expect(valuesAtRest(line, points[0]!.raw)[2]).toBeCloseTo(c.ohm[0], 6);
  });
});

describe('polynomial least squares', () => {
  it.each(cases('least_squares'))('$name', (c) => {
    const fit = fitPolynomial(c.x, c.y, c.degree);
    c.coef.forEach((v: number, k: number) => expect(relative(fit.coefficients[k]!, v)).toBeLessThan(1e-9));
    c.coef_sd.forEach((v: number, k: number) =>
      expect(relative(Math.sqrt(fit.covariance[k]![k]!), v)).toBeLessThan(1e-8),
    );
    expect(relative(fit.residualSd, c.residual_sd)).toBeLessThan(1e-9);
    if (c.predict_at !== undefined) {
      const predicted = fit.predict(c.predict_at);
      expect(relative(predicted.value, c.predict)).toBeLessThan(1e-10);
      expect(relative(predicted.confidence95, c.confidence95)).toBeLessThan(1e-8);
      expect(relative(predicted.prediction95, c.prediction95)).toBeLessThan(1e-8);
      const weighted = fitPolynomial(c.x, c.y, c.degree, c.weights);
      c.weighted_coef.forEach((v: number, k: number) =>
        expect(relative(weighted.coefficients[k]!, v)).toBeLessThan(1e-9),
      );
      c.weighted_coef_sd.forEach((v: number, k: number) =>
        expect(relative(Math.sqrt(weighted.covariance[k]![k]!), v)).toBeLessThan(1e-8),
      );
      const tripled = fitPolynomial(
        c.x,
        c.y,
        c.degree,
        c.weights.map((w: number) => 3 * w),
      );
      expect(relative(tripled.coefficients[0]!, weighted.coefficients[0]!)).toBeLessThan(1e-9);
      expect(relative(tripled.covariance[0]![0]!, weighted.covariance[0]![0]!)).toBeLessThan(1e-9);
    }
  });
});
