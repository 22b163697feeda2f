import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  effectiveCount,
  effectiveDegreesOfFreedom,
  fitPolynomial,
  gaussNewton,
  lowerBound,
  mean,
  sampleSd,
  seededRandom,
  studentTQuantile,
} from '../src/numerics/index.ts';

describe('effectiveDegreesOfFreedom', () => {
  it("is that of the Guide's example of three means, in per cent", () => {
    // JCGM 100:2008, G.4.1, example: 19.0.
    const parts = [
      { u: 0.25, degreesOfFreedom: 9 },
      { u: 0.57, degreesOfFreedom: 4 },
      { u: 0.82, degreesOfFreedom: 14 },
    ];
    const variance = parts.reduce((s, { u }) => s + u ** 2, 0);
    expect(effectiveDegreesOfFreedom(variance, parts)).toBeCloseTo(19, 1);
  });

  it('is without end where every part is known by itself, and that of a part alone', () => {
    const known = { u: 2, degreesOfFreedom: Infinity };
    expect(effectiveDegreesOfFreedom(4, [known])).toBe(Infinity);
    expect(effectiveDegreesOfFreedom(9, [{ u: 3, degreesOfFreedom: 5 }])).toBeCloseTo(5, 12);
    expect(effectiveDegreesOfFreedom(13, [{ u: 3, degreesOfFreedom: 5 }, known])).toBeGreaterThan(5);
  });
});

describe('lowerBound', () => {
  it('finds what a plain search finds', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -20, max: 20 })),
        fc.integer({ min: -25, max: 25 }),
        (values, value) => {
          const sorted = values.toSorted((a, b) => a - b);
          const plain = sorted.findIndex((v) => v >= value);
          expect(lowerBound(sorted, value)).toBe(plain < 0 ? sorted.length : plain);
        },
      ),
    );
  });
});

describe('statistics', () => {
  it('keep their digits far from zero', () => {
    const values = [1, 2, 3, 4].map((v) => v + 1e9);
    expect(mean(values)).toBe(1e9 + 2.5);
    expect(sampleSd(values)).toBeCloseTo(Math.sqrt(5 / 3), 9);
    expect(mean([])).toBeNaN();
    expect(sampleSd([4])).toBeNaN();
  });

  it('count a correlated series for less, and never for less than one', () => {
    expect(effectiveCount(Array.from({ length: 50 }, (_, i) => i))).toBeGreaterThanOrEqual(1);
    expect(effectiveCount([7, 7, 7, 7])).toBe(4);
    const random = seededRandom(5);
    const alternating = Array.from({ length: 60 }, (_, i) => (-1) ** i + 0.01 * random.normal());
    expect(effectiveCount(alternating)).toBe(60);
  });

  // Windows of ten seconds: white noise alone, after a filter, and on slower noise that neighbours hardly show.
  it.each([
    ['white', 10, 1, 0, 1],
    ['slow alone', 10, 0, 1, 0.5],
    ['white on slow', 10, 1, 1, 1],
    ['white on slow, fast', 50, 1, 1, 1],
    ['white on weak slow', 50, 1, 0.5, 1],
    ['white on weak slow, faster', 500, 1, 0.3, 1],
  ])('hold the true mean by it: %s at %i/s', (_name, rateHz, white, slow, tauS) => {
    const random = seededRandom(5);
    const n = 10 * rateHz;
    const held = Math.exp(-1 / (rateHz * tauS));
    const trials = 300;
    let inside = 0;
    for (let k = 0; k < trials; k++) {
      let drift = slow * random.normal();
      const series = Array.from({ length: n }, () => {
        drift = held * drift + slow * Math.sqrt(1 - held * held) * random.normal();
        return drift + white * random.normal();
      });
      if (Math.abs(mean(series)) <= (2 * sampleSd(series)) / Math.sqrt(effectiveCount(series))) inside++;
    }
    expect(inside / trials).toBeGreaterThan(0.86);
    expect(inside / trials).toBeLessThan(0.99);
  });
});

describe('quantiles', () => {
  it('refuse what is no probability or no degrees of freedom', () => {
    expect(() => studentTQuantile(1, 5)).toThrow(/above 0 and below 1; received 1/);
    expect(() => studentTQuantile(0.9, 0)).toThrow(/above 0; received 0/);
    expect(studentTQuantile(0.5, 3)).toBe(0);
    expect(studentTQuantile(0.025, 7)).toBe(-studentTQuantile(0.975, 7));
  });
});

describe('fitPolynomial', () => {
  it('refuses unequal lengths, too few different x, and what is not finite', () => {
    expect(() => fitPolynomial([1, 2], [1], 1)).toThrow(/received 2 x, 1 y/);
    expect(() => fitPolynomial([1, 1, 1], [1, 2, 3], 1)).toThrow(
      /at least 2 points at different x; received 1/,
    );
    expect(() => fitPolynomial([1, 2, 3], [1, Number.NaN, 3], 1)).toThrow(/finite/);
    expect(() => fitPolynomial([1, 2, 3], [1, 2, 3], 1, [1, -1, 1])).toThrow(/positive weights/);
  });
});

describe('gaussNewton', () => {
  const model = (y: (t: number) => number) => (theta: readonly number[]) =>
    [0, 1, 2, 3].map((t) => y(t) - theta[0]! * Math.exp(-theta[1]! * t));

  it('finds an exponential and its covariance is symmetric', () => {
    const found = gaussNewton({
      start: [1, 0.1],
      scale: [1, 0.1],
      residuals: model((t) => 3 * Math.exp(-0.7 * t)),
    });
    expect(found).toMatchObject({
      converged: true,
      parameters: [expect.closeTo(3, 6), expect.closeTo(0.7, 6)],
    });
    expect(found.covariance[0]![1]).toBeCloseTo(found.covariance[1]![0]!, 12);
  });

  it('says when the points cannot tell the constants apart, and when there is no number to start from', () => {
    const twins = gaussNewton({
      start: [1, 1],
      scale: [1, 1],
      residuals: ([a, b]) => [1, 2, 3].map((t) => t - (a! + b!) * t),
    });
    expect(twins).toMatchObject({
      converged: false,
      reason: expect.stringMatching(/cannot determine these constants separately/),
    });
    const nothing = gaussNewton({ start: [1], scale: [1], residuals: () => [Number.NaN] });
    expect(nothing).toMatchObject({ converged: false, reason: expect.stringMatching(/no reading/) });
  });
});

describe('seededRandom', () => {
  it('has the mean and spread it claims', () => {
    const random = seededRandom(11);
    const draws = Array.from({ length: 20_000 }, () => random.normal());
    expect(Math.abs(mean(draws))).toBeLessThan(0.03);
    expect(Math.abs(sampleSd(draws) - 1)).toBeLessThan(0.02);
    const uniform = Array.from({ length: 1000 }, () => random.uniform());
    expect(uniform.every((u) => u >= 0 && u < 1)).toBe(true);
  });
});
