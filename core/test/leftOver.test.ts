import { describe, expect, it } from 'vitest';
import { calibrationCovariance, FITS, predictionBand } from '../src/calibrate/index.ts';
import {
  compileLine,
  editLine,
  invertLine,
  largestLeftOver,
  leftOverAt,
  lineUncertainty,
} from '../src/line/index.ts';
import type { FitResult, LeftOver } from '../src/model/calibration.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { CONTEXT, FIT_CASES, fitOf, good, volts } from './support/intervals/fitCases.ts';
import { shownHalf } from './support/intervals/shownHalf.ts';

const curve: LeftOver = { readings: [10, 20, 40], u: [1, 3, 2] };

describe('what a fit leaves', () => {
  it('is of one size, or goes in straight lines between readings and stays at its ends', () => {
    expect(leftOverAt(0.5, 1e9)).toBe(0.5);
    expect([-5, 10, 15, 20, 30, 40, 99].map((at) => leftOverAt(curve, at))).toEqual([1, 1, 2, 3, 2.5, 2, 2]);
    expect(leftOverAt({ readings: [7], u: [4] }, 0)).toBe(4);
    expect([largestLeftOver(0.5), largestLeftOver(curve)]).toEqual([0.5, 3]);
  });
});

/** A straight line through points of a sensor that bows by so much at its middle, mm; a volt is twenty of them. */
function bowed(bow: number, { seed = 1, noise = 0.05, at = [5, 15, 25, 35, 45, 55] } = {}): FitResult {
  const random = seededRandom(seed);
  const [low, high] = [Math.min(...at), Math.max(...at)];
  const points = at.map((value, i) => {
    const s = (value - low) / (high - low);
    return {
      id: `p${i}`,
      raw: (value + 4 * bow * s * (1 - s)) / 20,
      uRaw: 0.0001,
      reference: value + noise * random.normal(),
      uReference: 0.05,
    };
  });
  return good(fitOf('gain-offset', volts, points));
}
const misfitAt = (result: FitResult, reading: number) => leftOverAt(result.misfit!, reading);

describe('how far a fit misses a bowed sensor', () => {
  it('follows the bow: large between the points where it stands off the line, nothing where it crosses', () => {
    const result = bowed(1);
    // A straight line through a parabola 4 s (1 - s) is off by a third of its height at the ends and in the middle.
    expect(misfitAt(result, 30)).toBeGreaterThan(0.2);
    expect(misfitAt(result, 30)).toBeLessThan(0.5);
    expect(misfitAt(result, 5)).toBeGreaterThan(0.2);
    const crossings = Array.from({ length: 101 }, (_, i) => misfitAt(result, 5 + i / 2));
    expect(Math.min(...crossings)).toBeLessThan(0.1 * Math.max(...crossings));
  });

  it('grows with a bow that is seen, and is hardly there for points that lie on the line', () => {
    const [none, some, much] = [0, 1, 3].map((bow) => largestLeftOver(bowed(bow, { noise: 0 }).misfit!));
    expect(none).toBeLessThan(1e-3);
    expect(much! / some!).toBeCloseTo(3, 1);
  });

  it('does not go by the order of points, and rises along its readings', () => {
    const plain = bowed(1, { noise: 0 });
    const turned = bowed(1, { noise: 0, at: [55, 45, 35, 25, 15, 5] });
    for (const at of [5, 20, 30, 47]) expect(misfitAt(turned, at)).toBeCloseTo(misfitAt(plain, at), 6);
    const { readings, u } = plain.misfit as Exclude<LeftOver, number>;
    expect(readings).toEqual(readings.toSorted((a, b) => a - b));
    expect(u.every((v) => Number.isFinite(v) && v >= 0)).toBe(true);
  });

  it('is in the band and in the uncertainty of readings, at each reading its own', () => {
    const result = bowed(1);
    const line = compileLine(editLine(volts, result.edits), CONTEXT);
    const covariance = calibrationCovariance(result);
    const readings = [10, 30, 50].map((value) => {
      const last = lineUncertainty(line, value / 20, 0, covariance).at(-1)!;
      const bare = lineUncertainty(line, value / 20, 0, { ...covariance, leftOver: 0 }).at(-1)!;
      return { last, left: Math.sqrt(last.systematic ** 2 - bare.systematic ** 2) };
    });
    for (const { last, left } of readings)
      expect(left).toBeCloseTo(leftOverAt(covariance.leftOver, last.value), 6);
    expect(readings[1]!.left).toBeGreaterThan(2 * readings[0]!.left);
    const band = predictionBand(volts, CONTEXT, result, [1.5], 0)[0]!;
    expect(band.prediction).toBeGreaterThan(band.confidence);
  });

  it('is believed where it goes past what the constants are allowed, and not where they are allowed more', () => {
    const at = [20, 40, 60];
    const points = at.map((value, i) => ({
      id: `p${i}`,
      raw: (value + (value === 40 ? 0.25 : 0)) / 20,
      uRaw: 0.0001,
      reference: value,
      uReference: 0.2,
    }));
    const result = good(fitOf('gain', volts, points));
    // A gain is off most where the reading is largest; the bow crosses it on the way there.
    expect(misfitAt(result, 26)).toBeGreaterThan(0.05);
    expect(misfitAt(result, 58)).toBe(0);
    const zero = points.map((p, i) => (i === 0 ? { ...p, raw: 0, reference: 0 } : p));
    const fromZero = good(fitOf('gain', volts, zero)).misfit as Exclude<LeftOver, number>;
    expect(fromZero.u.every((v) => Number.isFinite(v) && v >= 0)).toBe(true);
  });

  it.each(FIT_CASES.filter((c) => FITS.find((f) => f.id === c.fit)!.parameterCount < 3))(
    '$fit: holds a sensor that bows by up to twelve uncertainties, where noise hides nothing of it',
    ({ fit, as, edits, at, uReference, uRaw }) => {
      const truth = compileLine(editLine(as, edits), CONTEXT);
      const [low, high] = [Math.min(...at), Math.max(...at)];
      for (const bow of [0.5, 1, 1.5, 3, 6, 12]) {
        const rawOf = (value: number) => {
          const s = (value - low) / (high - low);
          return invertLine(truth, value + 4 * bow * uReference * s * (1 - s))[0]!;
        };
        const points = at.map((value, i) => ({
          id: `p${i}`,
          raw: rawOf(value),
          uRaw,
          reference: value,
          uReference,
        }));
        const values = Array.from({ length: 41 }, (_, i) => low + ((high - low) * i) / 40);
        const result = good(fitOf(fit, as, points));
        predictionBand(as, CONTEXT, result, values.map(rawOf), 0).forEach((there, i) => {
          expect(Math.abs(there.reading - values[i]!), `a bow of ${bow}`).toBeLessThanOrEqual(
            there.prediction,
          );
        });
      }
    },
  );

  it('is as wide in the budget as in the band: an allowance, not a few numbers that scatter', () => {
    for (const bow of [0, 0.1, 1]) {
      const result = bowed(bow, { seed: 3, noise: 0.08 });
      for (const raw of [0.4, 1.5, 2.6]) {
        const band = predictionBand(volts, CONTEXT, result, [raw], 0)[0]!;
        expect(shownHalf(volts, result, band.reading, 1e-9) / band.prediction).toBeCloseTo(1, 6);
      }
    }
  });

  it('is of one size in a version that was kept before it was a curve', () => {
    const old = { ...bowed(1), misfit: 0.3 };
    expect(calibrationCovariance(old).leftOver).toBe(0.3);
  });
});
