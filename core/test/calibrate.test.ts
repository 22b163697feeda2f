import { describe, expect, it } from 'vitest';
import {
  calibratedLine,
  calibrationCovariance,
  captureUncertainty,
  FITS,
  fitCalibration,
  fitsFor,
  judgeChecks,
  recommendFit,
  steadyLimits,
  steadyWindow,
  type FitPoint,
} from '../src/calibrate/index.ts';
import { compileLine, editLine, invertLine, lineUncertainty, readingAtRest } from '../src/line/index.ts';
import type { Calibration, FitResult } from '../src/model/index.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { thermistorLine } from '../src/plan/index.ts';

const CONTEXT = { sampleRateHz: 10 };
const base = thermistorLine('p');
const kind = (id: string) => FITS.find((f) => f.id === id)!;

/** Points that a probe with the given true series resistor would give. */
function pointsOf(
  trueOhm: number,
  celsius: readonly number[],
  noise: (i: number) => number = () => 0,
  uReference = 0.05,
): FitPoint[] {
  const truth = compileLine(
    editLine(base, [{ stageId: 'divider', params: { seriesOhm: trueOhm } }]),
    CONTEXT,
  );
  return celsius.map((t, i) => ({
    id: `p${i}`,
    raw: invertLine(truth, t)[0]!,
    uRaw: 0.1,
    reference: t + noise(i) * uReference,
    uReference,
  }));
}

function fit(id: string, points: readonly FitPoint[]): FitResult {
  const result = fitCalibration(kind(id), base, CONTEXT, points);
  if (typeof result === 'string') throw new Error(result);
  return result;
}

describe('references that points share', () => {
  const at = Array.from({ length: 20 }, (_, i) => 5 + 5 * i);

  /** How often twice the uncertainty of the fitted line holds its true error, in the middle of the range. */
  function coverage(shares: string | null): number {
    const random = seededRandom(17);
    const trials = 200;
    let inside = 0;
    for (let k = 0; k < trials; k++) {
      // One thermometer, good to ±2, wrong by the same at every point.
      const wrong = random.normal();
      const points = pointsOf(3300, at, () => wrong, 1).map((p) => ({ ...p, shares }));
      const result = fit('offset', points);
      const line = compileLine(editLine(base, result.edits), CONTEXT);
      const truth = compileLine(
        editLine(base, [{ stageId: 'divider', params: { seriesOhm: 3300 } }]),
        CONTEXT,
      );
      const raw = invertLine(truth, 60)[0]!;
      const u = lineUncertainty(line, raw, 0, { ...calibrationCovariance(result), leftOver: 0 }).at(-1)!;
      if (Math.abs(readingAtRest(line, raw) - 60) <= 2 * u.systematic) inside++;
    }
    return inside / trials;
  }

  it('average away in none of them: one thermometer at twenty points', () => {
    expect(coverage('the thermometer')).toBeGreaterThan(0.9);
    expect(coverage(null)).toBeLessThan(0.6);
  });

  it('never make a constant better known than if each were another', () => {
    for (const id of ['offset', 'gain', 'gain-offset', 'series-resistor', 'steinhart-hart']) {
      const points = pointsOf(3300, [0, 20, 40, 60, 80, 100]);
      const own = fit(id, points);
      const shared = fit(
        id,
        points.map((p) => ({ ...p, shares: 'x' })),
      );
      shared.parameters.forEach((p, i) =>
        expect(p.u).toBeGreaterThanOrEqual(own.parameters[i]!.u * (1 - 1e-9)),
      );
      expect(shared.parameters.map((p) => p.value)).toEqual(own.parameters.map((p) => p.value));
    }
  });
});

describe('steadyWindow', () => {
  const limits = { windowS: 10, drift: 0.5, scatter: 2 };
  const series = (f: (t: number) => number, seconds = 30) => {
    const times = Array.from({ length: seconds * 10 }, (_, i) => i / 10);
    return { times, values: times.map(f) };
  };
  const judge = ({ times, values }: ReturnType<typeof series>) =>
    steadyWindow(times, values, (i) => values[i]! > 0, limits);
  const noise = seededRandom(3);
  const steadyNoise = series(() => 500 + 0.6 * noise.normal());

  it('finds noise about a level steady, and says for how long', () => {
    const state = judge(steadyNoise);
    expect(state.steady).toBe(true);
    expect(state.steadyForS).toBeGreaterThan(15);
    expect(state.capture!.mean).toBeCloseTo(500, 0);
    expect(state.capture!.n).toBe(101);
    expect(state.capture!.nEffective).toBeGreaterThan(40);
  });

  it('reaches back to where it began to stand, wherever time and counts start, and no further than a bad reading', () => {
    const reach = (t0: number, v0: number, badAt = -1) => {
      const random = seededRandom(5);
      const n = 2000;
      const times = Float64Array.from({ length: n }, (_, i) => t0 + i / 10);
      const values = Float64Array.from(
        { length: n },
        (_, i) => v0 + (i < 600 ? 40 - i / 15 : 0) + 0.3 * random.normal(),
      );
      const limits = { windowS: 10, drift: 1, scatter: 2 };
      return steadyWindow(times, values, (i) => i !== badAt, limits).steadyForS;
    };
    const plain = reach(0, 500);
    expect(plain).toBeGreaterThan(130);
    expect(plain).toBeLessThan(145);
    expect(reach(1.8e9, 500)).toBe(plain);
    expect(reach(0, 8_000_000)).toBe(plain);
    expect(reach(0, 500, 1500)).toBeCloseTo(50, -1);
  });

  it.each([
    ['a slow drift', series((t) => 500 + 0.2 * t), /Still changing: 2.0 counts in 10 s/],
    ['wild scatter', series((t) => 500 + 8 * Math.sin(t * 37)), /Readings scatter by/],
    ['too short a look', series(() => 500, 4), /Waiting for steady readings: 3 of 10 s/],
    [
      'a dead reading in the window',
      series((t) => (t > 28 && t < 28.2 ? 0 : 500)),
      /missing or at the end of the ADC range/,
    ],
    ['nothing at all', { times: [], values: [] }, /No readings yet/],
  ])('waits on %s and says why', (_what, data, reason) => {
    const state = judge(data);
    expect(state.steady).toBe(false);
    expect(state.waitingFor).toMatch(reason);
  });

  it('is not steady while readings of another level are in the window, however few and however wide the limits', () => {
    const random = seededRandom(7);
    const [rateHz, stepAtS] = [200, 20];
    const times = Array.from({ length: 40 * rateHz }, (_, i) => i / rateHz);
    const values = times.map((t) => (t < stepAtS ? 500 : 540) + 0.3 * random.normal());
    const told = (endS: number) => {
      const n = Math.round(endS * rateHz);
      return steadyWindow(times.slice(0, n), values.slice(0, n), () => true, {
        windowS: 10,
        drift: 20,
        scatter: 100,
      });
    };
    expect(told(20).waitingFor).toBeNull();
    expect(told(20.005).waitingFor).toBe('Just changed.');
    for (const endS of [20.1, 21, 25, 29, 29.9]) expect(told(endS).steady).toBe(false);
    expect(told(29.9).waitingFor).toBe('Steady for 9.8 of 10 s.');
    expect(told(30.1).capture!.mean).toBeCloseTo(540, 0);
    expect(told(30.1).steady).toBe(true);
  });

  it('needs eight readings, however long they took', () => {
    expect(steadyWindow([0, 5, 10, 15], [5, 5, 5, 5], () => true, limits).waitingFor).toMatch(
      /Only 3 readings.*8 are needed/,
    );
  });

  it('takes its limits from the tolerance through the slope of the line', () => {
    const line = compileLine(base, CONTEXT);
    const loose = steadyLimits(line, 500, 2);
    const tight = steadyLimits(line, 500, 1);
    expect(loose.drift / tight.drift).toBeCloseTo(2, 6);
    expect(steadyLimits(line, 500, 0.001)).toMatchObject({ drift: 0.5, scatter: 2 });
  });

  describe('of a probe whose line nobody has fitted yet', () => {
    // Two in a hundred are asked for; the line says a hundred counts for the whole range, the probe gives some thousands.
    const soil = compileLine(
      {
        sources: [{ column: 'soil', unit: 'count' }],
        stages: [{ id: 's', kind: 'linear', params: { slope: 1, intercept: 0, to: 'percent' }, off: false }],
      } as never,
      CONTEXT,
    );
    const nothing = { isTrued: false, points: [], range: [0, 100] as const, lastCode: 4095 };

    it('go by the range as a whole', () => {
      expect(steadyLimits(soil, 1500, 2).scatter).toBe(2);
      expect(steadyLimits(soil, 1500, 2, nothing).scatter).toBeCloseTo(4095 / 100, 6);
    });
    it('go by the points as soon as there are two', () => {
      const points = [
        { raw: 3000, reference: 10 },
        { raw: 1000, reference: 60 },
      ];
      expect(steadyLimits(soil, 1500, 2, { ...nothing, points }).scatter).toBeCloseTo(40, 6);
      const alike = [points[0]!, { ...points[0]!, reference: 12 }];
      expect(steadyLimits(soil, 1500, 2, { ...nothing, points: alike }).scatter).toBeCloseTo(40.95, 6);
    });
    it('go by the line once it is calibrated, or where it can be', () => {
      expect(steadyLimits(soil, 1500, 2, { ...nothing, isTrued: true }).scatter).toBe(2);
      expect(steadyLimits(soil, 1500, 2, { ...nothing, lastCode: Infinity }).scatter).toBe(2);
      expect(steadyLimits(soil, 50, 2, { ...nothing, lastCode: 255 }).scatter).toBe(2);
    });
  });
});

describe('captureUncertainty', () => {
  const capture = { mean: 500, n: 100, nEffective: 100, durationS: 10 };
  it('falls with the root of the effective number', () => {
    expect(captureUncertainty({ ...capture, sd: 1 })).toBeCloseTo(0.1, 12);
    expect(captureUncertainty({ ...capture, sd: 1, nEffective: 25 })).toBeCloseTo(0.2, 12);
  });
  it('never promises more than the codes can tell when nothing scatters', () => {
    expect(captureUncertainty({ ...capture, sd: 0 })).toBeCloseTo(1 / Math.sqrt(12), 12);
  });
});

describe('fits', () => {
  it('solves for the series resistor exactly when that is the only fault', () => {
    const result = fit('series-resistor', pointsOf(3432, [0, 20, 50, 75]));
    expect(result.converged).toBe(true);
    expect(result.parameters[0]!.value).toBeCloseTo(3432, 4);
    expect(result.parameters[0]!.before).toBe(3300);
    expect(result.chiSquare).toBeLessThan(1e-9);
    expect(result.residuals.every((r) => Math.abs(r.after!) < 1e-6)).toBe(true);
    expect(Math.abs(result.residuals[3]!.before!)).toBeGreaterThan(1);
    expect(result.validReading).toEqual([0, 75]);
  });

  it('finds gain and offset of readings that lie on a line', () => {
    const bought = compileLine(base, CONTEXT);
    const points = [5, 40, 90].map((shown, i) => ({
      id: String(i),
      raw: invertLine(bought, shown)[0]!,
      uRaw: 0.1,
      reference: 1.01 * shown - 0.5,
      uReference: 0.05,
    }));
    const result = fit('gain-offset', points);
    expect(result.parameters.map((p) => p.value)).toEqual([expect.closeTo(1.01, 9), expect.closeTo(-0.5, 7)]);
    expect(result.aicc).toBeNull();
    expect(result.degreesOfFreedom).toBe(1);
  });

  it('is unchanged when every point is given twice the uncertainty, but for twice the spread', () => {
    const once = fit(
      'gain-offset',
      pointsOf(3400, [0, 30, 60, 95], (i) => (i % 2 ? 1 : -1), 0.1),
    );
    const points = pointsOf(3400, [0, 30, 60, 95], (i) => (i % 2 ? 1 : -1), 0.1).map((p) => ({
      ...p,
      uRaw: 2 * p.uRaw,
      uReference: 2 * p.uReference,
    }));
    const twice = fit('gain-offset', points);
    expect(twice.parameters[0]!.value).toBeCloseTo(once.parameters[0]!.value, 9);
    expect(twice.chiSquare! / once.chiSquare!).toBeCloseTo(0.25, 6);
  });

  it('widens the constants by the Birge ratio when the points scatter too much, and narrows them no further than stated uncertainties may be off', () => {
    const calm = fit('series-resistor', pointsOf(3300, [0, 30, 60, 95]));
    const wild = fit(
      'series-resistor',
      pointsOf(3300, [0, 30, 60, 95], (i) => (i % 2 ? 12 : -12)),
    );
    // Four points without any scatter, beside eight degrees of freedom for what was stated.
    expect(calm.birge).toBeCloseTo(Math.sqrt(8 / 11), 3);
    const shared = pointsOf(3300, [0, 30, 60, 95]).map((p) => ({ ...p, shares: 'own thermometer' }));
    // That points agree says nothing of a thermometer that is wrong at all of them.
    expect(fit('series-resistor', shared).birge).toBe(1);
    expect(wild.birge).toBeGreaterThan(3);
    expect(wild.parameters[0]!.u / calm.parameters[0]!.u).toBeGreaterThan(3);
  });

  it('says how many points are missing, and that a perfect fit proves nothing', () => {
    expect(fitCalibration(kind('steinhart-hart'), base, CONTEXT, pointsOf(3300, [0, 50]))).toBe(
      'Needs 3 different points; capture 1 more.',
    );
    expect(fitCalibration(kind('series-resistor'), base, CONTEXT, [])).toMatch(/capture 1 more/);
    const exact = fit('gain-offset', pointsOf(3400, [0, 90]));
    expect(exact.leaveOneOutRms).toBeNull();
    expect(exact.reason).toMatch(/passes through all 2 points/);
  });

  it('says what the line lacks', () => {
    const noDivider = { ...base, stages: [] };
    expect(fitCalibration(kind('series-resistor'), noDivider, CONTEXT, pointsOf(3300, [0]))).toMatch(
      /no divider/,
    );
    const noCorrection = { ...base, stages: base.stages.filter((s) => s.kind !== 'gain-offset') };
    expect(fitCalibration(kind('gain-offset'), noCorrection, CONTEXT, pointsOf(3300, [0, 50]))).toMatch(
      /no gain-and-offset stage/,
    );
  });

  it('refuses a point without any uncertainty', () => {
    const points = pointsOf(3300, [0, 50]).map((p) => ({ ...p, uRaw: 0, uReference: 0 }));
    expect(fitCalibration(kind('series-resistor'), base, CONTEXT, points)).toMatch(/zero uncertainty/);
  });
});

describe('recommendFit', () => {
  const all = (points: readonly FitPoint[]) =>
    fitsFor(base)
      .map((k) => fitCalibration(k, base, CONTEXT, points))
      .filter((r): r is FitResult => typeof r !== 'string');
  const whole = pointsOf(3432, [0, 20, 50, 75, 98], (i) => (i % 2 ? 0.5 : -0.5));

  it('advises the simplest that keeps points left out within the tolerance', () => {
    expect(recommendFit(all(whole), 1, [0, 110])!.fit).toBe('series-resistor');
    expect(recommendFit(all(whole), 1e-6)).toMatchObject({
      fit: null,
      reason: expect.stringMatching(/more than the tolerance. Capture more or better points/),
    });
  });

  it('advises nothing when no fit can be judged', () => {
    expect(recommendFit([fit('gain-offset', pointsOf(3300, [0, 90]))], 1)).toBeNull();
  });

  it('advises none that its points speak against, and says how much they scatter', () => {
    // One constant for a sensor that is off by an offset as well: a hundred times what was stated.
    const off = whole.map((p, i) => ({ ...p, reference: p.reference + (i > 2 ? 5 : 0) }));
    const told = recommendFit(
      all(off).filter((r) => r.fit === 'series-resistor'),
      20,
      [0, 110],
    )!;
    expect(told).toMatchObject({ fit: null, nearest: 'series-resistor' });
    expect(told.reason).toMatch(/scatter \d+ times as much.*one constant is not enough/);
  });

  it('advises none whose points lie in one place, and says where the next belongs', () => {
    const near = pointsOf(3432, [20, 21, 22]);
    expect(recommendFit(all(near), 1, [0, 110], '°C')).toMatchObject({
      fit: null,
      reason: expect.stringMatching(/cover only 2 % .*; 25 % are needed. Capture a point near 110 °C/),
    });
    // Without a brief nobody asks for more.
    expect(recommendFit(all(near), 1)!.fit).toBe('series-resistor');
  });

  it('wants more of the range for what knows no shape', () => {
    const some = pointsOf(3432, [20, 35, 55]);
    const of = (id: string) =>
      recommendFit(
        all(some).filter((r) => r.fit === id),
        20,
        [0, 110],
      )!.fit;
    expect(of('series-resistor')).toBe('series-resistor');
    expect(of('offset')).toBeNull();
  });
});

describe('judging and using a calibration', () => {
  const points = pointsOf(3432, [0, 20, 50, 75]);
  const result = fit('series-resistor', points);

  it('fails the check as bought and passes it after', () => {
    const check = pointsOf(3432, [97.9]);
    const before = judgeChecks(compileLine(base, CONTEXT), check, 1, 'degC')[0]!;
    const after = judgeChecks(compileLine(editLine(base, result.edits), CONTEXT), check, 1, 'degC')[0]!;
    expect(before.verdict.state).toBe('fail');
    expect(before.error).toBeGreaterThan(1.2);
    expect(after.verdict.state).toBe('pass');
    expect(Math.abs(after.error)).toBeLessThan(0.01);
  });

  it('applies the version in use, and none when there is none', () => {
    const calibration: Calibration = {
      id: 'c',
      channelId: 'p2',
      number: 1,
      state: 'in use',
      result,
      pointIds: [],
      note: '',
      createdAt: '2026-01-01T00:00:00Z',
      usedAt: null,
    };
    expect(calibratedLine(base, 'p2', [calibration]).line.stages[1]!.params['seriesOhm']).toBeCloseTo(
      3432,
      3,
    );
    expect(calibratedLine(base, 'p1', [calibration])).toEqual({ line: base, calibration: null });
    expect(calibratedLine(base, 'p2', [{ ...calibration, state: 'replaced' }]).calibration).toBeNull();
  });

  it('is trusted inside the points’ range and less outside it', () => {
    const line = compileLine(editLine(base, result.edits), CONTEXT);
    const covariance = calibrationCovariance(result);
    const inside = lineUncertainty(line, points[1]!.raw, 0.6, covariance).at(-1)!;
    const outside = lineUncertainty(line, invertLine(line, 108)[0]!, 0.6, covariance).at(-1)!;
    expect(outside.systematic).toBeGreaterThan(3 * inside.systematic);
  });
});

describe('lineUncertainty', () => {
  it('agrees with a Monte Carlo of the constants as bought', () => {
    const line = compileLine(base, CONTEXT);
    const raw = invertLine(line, 80)[0]!;
    const stated = lineUncertainty(line, raw, 0).at(-1)!.systematic;
    const random = seededRandom(7);
    const draws = Array.from({ length: 4000 }, () => {
      const spec = {
        ...base,
        stages: base.stages.map((s) => ({
          ...s,
          params: Object.fromEntries(
            Object.entries(s.params).map(([name, v]) => [
              name,
              typeof v === 'number' ? v + (s.uncertainty[name] ?? 0) * random.normal() : v,
            ]),
          ),
        })),
      };
      return readingAtRest(compileLine(spec, CONTEXT), raw);
    });
    const centre = draws.reduce((a, b) => a + b) / draws.length;
    const sd = Math.sqrt(draws.reduce((s, v) => s + (v - centre) ** 2, 0) / (draws.length - 1));
    expect(Math.abs(stated / sd - 1)).toBeLessThan(0.05);
  });

  it('shrinks noise by the filter but not the constants’ share', () => {
    const line = compileLine(base, CONTEXT);
    const stages = lineUncertainty(line, 440, 0.6);
    const [before, after] = stages.slice(-2);
    expect(after!.noise / before!.noise).toBeCloseTo(0.2236, 2);
    expect(after!.systematic).toBeCloseTo(before!.systematic, 12);
  });
});
