import { describe, expect, it } from 'vitest';
import { fitCalibration, fitPoint, FITS, sampleStrength } from '../src/calibrate/index.ts';
import type { CalibrationPoint, Capture, FitResult, ReferenceInput } from '../src/model/calibration.ts';
import type { LineSpec } from '../src/model/line.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { referenceValue } from '../src/references/index.ts';

const CONTEXT = { sampleRateHz: 2 };
const BLANK = 42000;
const DARK = 140;
const STOCK = 200;
const STOCK_PERCENT = 1;
const VESSELS = { takenPercent: 0.8, madeUpPercent: 0.3 };
const LINE: LineSpec = {
  sources: [{ column: 'l525', unit: 'count' }],
  stages: [
    {
      id: 'a',
      kind: 'absorbance',
      params: { dark: DARK, blank: BLANK, fullScale: 65535, gives: 'absorbance' },
      uncertainty: {},
      off: false,
    },
    {
      id: 'c',
      kind: 'concentration',
      params: { slope: 0.02, intercept: 0, dilution: 1, to: 'mgL' },
      uncertainty: { slope: 0.006 },
      off: false,
    },
  ],
};
const TRUTH = { slope: 0.0233, intercept: 0.004 };

/** A glass of so much dye, read 24 times with two thousandths of scatter. */
function glass(mgL: number, random: ReturnType<typeof seededRandom>): Capture {
  const counts = DARK + (BLANK - DARK) * 10 ** -(TRUTH.intercept + TRUTH.slope * mgL);
  const n = 24;
  const values = Array.from({ length: n }, () => counts * (1 + 0.002 * random.normal()));
  const mean = values.reduce((s, v) => s + v, 0) / n;
  const sd = Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / (n - 1));
  return { mean, sd, n, nEffective: n, durationS: 12 };
}

/** An error within a tolerance in per cent, any as likely as another. */
const within = (percent: number, random: ReturnType<typeof seededRandom>) =>
  1 + ((2 * random.uniform() - 1) * percent) / 100;

/** Standards from one stock, each by its own pipette and flask, as a maker would make them. */
function series(random: ReturnType<typeof seededRandom>, wanted: readonly number[]): FitResult {
  const stock = STOCK * within(STOCK_PERCENT, random);
  const points = wanted.map((mgL, i): CalibrationPoint => {
    const reference: ReferenceInput = {
      kind: 'dilution',
      stock: STOCK,
      stockPercent: STOCK_PERCENT,
      steps: [{ taken: mgL, madeUpTo: STOCK, ...VESSELS }],
    };
    const truly =
      (stock * mgL * within(VESSELS.takenPercent, random)) / (STOCK * within(VESSELS.madeUpPercent, random));
    return {
      id: `p${i}`,
      channelId: 'c',
      role: 'fit',
      reference,
      worth: referenceValue(reference, 'mgL'),
      capture: glass(truly, random),
      excluded: null,
      keptAt: '2026-01-01T00:00:00Z',
    };
  });
  const fit = FITS.find((f) => f.id === 'absorbance-line')!;
  const result = fitCalibration(
    fit,
    LINE,
    CONTEXT,
    points.map((p) => fitPoint(p, 'mgL')),
  );
  if (typeof result === 'string') throw new Error(result);
  return result;
}

const SERIES = [2, 5, 10, 20, 40];
const strength = (result: FitResult, capture: Capture, steps: Parameters<typeof sampleStrength>[5] = []) =>
  sampleStrength(LINE, CONTEXT, result, capture, STOCK_PERCENT, steps);

describe('how strong a sample is', () => {
  it.each([
    [12, 1],
    [190, 10],
  ])('%d mg/L, diluted %d-fold, lies within its interval in 93 of 100 trials or more', (mgL, fold) => {
    let inside = 0;
    for (let seed = 1; seed <= 100; seed++) {
      const random = seededRandom(seed * 7);
      const result = series(random, SERIES);
      const steps = fold === 1 ? [] : [{ taken: 10, madeUpTo: 10 * fold, ...VESSELS }];
      const vessels =
        fold === 1 ? 1 : within(VESSELS.takenPercent, random) / within(VESSELS.madeUpPercent, random);
      const found = strength(result, glass((mgL / fold) * vessels, random), steps)!;
      if (Math.abs(found.undiluted.value - mgL) <= found.undiluted.uncertainty) inside++;
      expect(found.undiluted.uncertainty / mgL).toBeLessThan(0.04);
      expect(found.outside).toBeNull();
    }
    expect(inside).toBeGreaterThanOrEqual(93);
  });

  it('does not average the stock away, however many standards were made from it', () => {
    const random = seededRandom(3);
    const many = series(
      random,
      Array.from({ length: 30 }, (_, i) => 2 + i),
    );
    const found = strength(many, glass(20, random))!;
    expect(found.inGlass.uncertainty / 20).toBeGreaterThan((1.95 * STOCK_PERCENT) / 100 / Math.sqrt(3));
    expect(found.shares[0]!.from).toBe('stock solution');
  });

  it('tells what its interval is made of: the shares add in squares, the dilution among them', () => {
    const random = seededRandom(4);
    const result = series(random, SERIES);
    const capture = glass(19, random);
    const straight = strength(result, capture)!;
    const diluted = strength(result, capture, [{ taken: 10, madeUpTo: 100, ...VESSELS }])!;
    expect(diluted.undiluted.value).toBeCloseTo(10 * straight.undiluted.value, 9);
    expect(diluted.undiluted.uncertainty).toBeGreaterThan(10 * straight.undiluted.uncertainty);
    expect(Math.hypot(...diluted.shares.map((s) => s.uncertainty))).toBeCloseTo(
      diluted.undiluted.uncertainty,
      9,
    );
    expect(straight.shares.map((s) => s.from)).not.toContain('dilution');
    expect(diluted.shares.map((s) => s.from)).toContain('dilution');
  });

  it('says when a glass is stronger or weaker than the standards, cannot be told from clear water, or has no reading', () => {
    const random = seededRandom(5);
    const result = series(random, SERIES);
    expect(strength(result, glass(60, random))!.outside).toBe('stronger');
    expect(strength(result, glass(1, random))!.outside).toBe('weaker');
    expect(strength(result, glass(0, random))!.indistinct).toBe(true);
    expect(strength(result, glass(10, random))).toMatchObject({ outside: null, indistinct: false });
    const dark = { ...glass(10, random), mean: DARK - 1 };
    expect(strength(result, dark)).toBeNull();
    expect(strength(result, { ...dark, mean: 65535 })).toBeNull();
  });

  it('refuses a dilution that adds nothing', () => {
    const random = seededRandom(6);
    const result = series(random, SERIES);
    expect(() => strength(result, glass(10, random), [{ taken: 50, madeUpTo: 5, ...VESSELS }])).toThrow(
      /the volume taken \(50\) must be smaller than the final volume \(5\)/,
    );
  });
});
