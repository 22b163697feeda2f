import { describe, expect, it } from 'vitest';
import {
  calibrationDrift,
  fitEllipsoid,
  fitPhaseTrim,
  fitReach,
  fitSixPosition,
  findSlips,
  isBeyondPoints,
  predictionBand,
  steadyWindow,
} from '../src/calibrate/index.ts';
import { sphereCoverage } from '../src/calibrate/sphereCoverage.ts';
import { compileLine, editLine, invertLine, readingAtRest } from '../src/line/index.ts';
import { seededRandom } from '../src/numerics/index.ts';
import type { UnitId } from '../src/units/index.ts';
import {
  bridge,
  CONTEXT,
  FIT_CASES,
  fitOf,
  good,
  line,
  simulate,
  stage,
  volts,
} from './support/intervals/fitCases.ts';
import { cases } from './support/vectors.ts';

describe.each(FIT_CASES)('$fit', ({ fit, as }) => {
  it('asks for as many points as it has constants, and says so', () => {
    expect(fitOf(fit, as, [])).toMatch(/Needs \d/);
  });
});

describe('curves', () => {
  const bent = line(
    'V',
    stage('l', 'linear', { slope: 20, intercept: 0, to: 'mm' }),
    stage('c', 'polynomial', { coefficients: [1, 0.9, 0.002], low: -10, high: 110, to: 'mm' }),
  );
  const points = simulate(bent, [3, 15, 30, 50, 70, 90], 0.001, 1e-6, 5);

  it('a parabola finds the bend, and a straight line is judged worse', () => {
    const parabola = good(fitOf('polynomial-2', volts, points));
    parabola.parameters.forEach((p, k) =>
      expect(Math.abs(p.value - [1, 0.9, 0.002][k]!)).toBeLessThan(5 * p.u),
    );
    const straight = good(fitOf('gain-offset', volts, points));
    expect(straight.leaveOneOutRms! / parabola.leaveOneOutRms!).toBeGreaterThan(50);
    expect(compileLine(editLine(volts, parabola.edits), CONTEXT).stages[1]!.kind.kind).toBe('polynomial');
  });

  it.each(['table-linear', 'table-pchip', 'table-natural-cubic', 'table-lagrange'])(
    '%s passes through its points',
    (id) => {
      const result = good(fitOf(id, volts, points));
      result.residuals.forEach((r) => expect(Math.abs(r.after!)).toBeLessThan(1e-9));
      expect(result.leaveOneOutRms).toBeGreaterThan(0);
      expect(result.reason).toMatch(/no remaining error to judge it by/);
      const twice = [...points, { ...points[0]!, id: 'again' }];
      expect(fitOf(id, volts, twice)).toMatch(/same reading/);
    },
  );

  it.each(['polynomial-2', 'table-linear', 'table-pchip'])(
    '%s goes on a tenth of the span beyond its points, and gives no number further out',
    (id) => {
      const result = good(fitOf(id, volts, points));
      const [low, high] = fitReach(volts, result, CONTEXT)!;
      expect(low).toBeLessThan(3);
      expect(high).toBeGreaterThan(90);
      expect(high).toBeLessThan(110);
      const fitted = compileLine(editLine(volts, result.edits), CONTEXT);
      const [from, to] = result.validRaw;
      const at = (share: number) => readingAtRest(fitted, to + share * (to - from));
      expect(Number.isFinite(at(0.05))).toBe(true);
      expect(at(0.2)).toBeNaN();
      expect(isBeyondPoints(result.validRaw, [to + 0.05 * (to - from)])).toBe(true);
      expect(isBeyondPoints(result.validRaw, [(from + to) / 2])).toBe(false);
      // A line walked back from beyond its bound is nowhere either.
      expect(invertLine(fitted, high + 50)[0]).toBeNaN();
    },
  );

  it('a straight line has no bound, and no end where nobody knows one', () => {
    expect(fitReach(volts, good(fitOf('gain-offset', volts, points)), CONTEXT)).toBeNull();
    expect(isBeyondPoints(null, [1])).toBe(false);
    expect(isBeyondPoints([0, 1], [5, 5])).toBe(false);
  });

  it('the band is narrow between the points, wide beyond them, and says so', () => {
    const result = good(fitOf('gain-offset', volts, simulate(volts, [20, 30, 40, 50], 0.2, 1e-4, 9)));
    const middle = invertLine(compileLine(volts, CONTEXT), 35)[0]!;
    const band = predictionBand(volts, CONTEXT, result, [middle, 3 * middle], 0.001);
    expect(band.map((b) => b.extrapolated)).toEqual([false, true]);
    expect(band[1]!.confidence).toBeGreaterThan(3 * band[0]!.confidence);
    expect(band[0]!.prediction).toBeGreaterThan(band[0]!.confidence);
  });

  it('tells drift between versions from their uncertainty', () => {
    const version = (offset: number, seed: number) => {
      const truth = editLine(volts, [{ stageId: 'c', params: { offset } }]);
      return good(fitOf('offset', volts, simulate(truth, [10, 30, 50], 0.1, 1e-4, seed)));
    };
    const [a, same, moved] = [version(0, 1), version(0, 2), version(2, 3)];
    expect(calibrationDrift(volts, CONTEXT, a, same).some((d) => d.shown)).toBe(false);
    const drift = calibrationDrift(volts, CONTEXT, a, moved);
    expect(drift).toHaveLength(5);
    expect(drift.every((d) => d.shown && Math.abs(d.change - 2) < 0.5)).toBe(true);
  });
});

describe('six positions', () => {
  const [c] = cases('six_position');

  it('gives back offset and scale, and names the sides by itself', () => {
    const result = fitSixPosition(
      c.raw.map((raw: number[]) => ({ raw })),
      1,
    );
    if (typeof result === 'string') throw new Error(result);
    result.offset.forEach((v, k) => expect(v).toBeCloseTo(c.bias[k], 12));
    expect(result.sides).toEqual(['+x up', '−x up', '+y up', '−y up', '+z up', '−z up']);
    result.residuals.forEach((r) => expect(Math.abs(r)).toBeLessThan(1e-12));
    const m = result.matrix;
    const product = [0, 1, 2].map((r) =>
      [0, 1, 2].map(
        (k) => m[3 * r]! * c.scale[0][k] + m[3 * r + 1]! * c.scale[1][k] + m[3 * r + 2]! * c.scale[2][k],
      ),
    );
    product.forEach((row, r) => row.forEach((v, k) => expect(v).toBeCloseTo(r === k ? 1 : 0, 12)));
  });

  it('names the side that is missing', () => {
    expect(
      fitSixPosition(
        c.raw.slice(0, 5).map((raw: number[]) => ({ raw })),
        1,
      ),
    ).toMatch(/position with −z up/);
  });
});

describe('ellipsoid', () => {
  const [c] = cases('ellipsoid');

  it('lays the cloud on the sphere, up to a turn', () => {
    const result = fitEllipsoid(c.raw, c.field);
    if (typeof result === 'string') throw new Error(result);
    result.offset.forEach((v, k) => expect(v).toBeCloseTo(c.offset[k], 6));
    const square = (m: number[][]) =>
      [0, 1, 2].flatMap((i) =>
        [0, 1, 2].map((j) => [0, 1, 2].reduce((s, k) => s + m[k]![i]! * m[k]![j]!, 0)),
      );
    const m = result.matrix;
    const ours = square([m.slice(0, 3), m.slice(3, 6), m.slice(6, 9)]);
    square(c.soft_iron).forEach((v, k) => expect(ours[k]!).toBeCloseTo(v, 6));
    expect(result.coverage.share).toBe(1);
  });

  it('refuses half a sphere and says which directions are missing', () => {
    const half = c.raw.filter((p: number[]) => p[2]! > c.offset[2]);
    expect(fitEllipsoid(half, c.field)).toMatch(/−z/);
    expect(fitEllipsoid(c.raw.slice(0, 10))).toMatch(/At least 20 readings/);
    const flat = c.raw.map((p: number[]) => [p[0], p[1], 7]);
    expect(fitEllipsoid(flat)).toMatch(/do not form a closed ellipsoid.*z/);
  });

  it('names directions by their axes', () => {
    const seen = sphereCoverage([[5, 0, 0]], [0, 0, 0]);
    expect(seen.share).toBeLessThan(0.2);
    expect(seen.directions).toHaveLength(42);
    expect(seen.missing.map((m) => m.name)).toContain('−x');
  });
});

describe('phase trim', () => {
  const record = (delayS: number, seed: number, load = 1) => {
    const random = seededRandom(seed);
    const rate = 2000;
    const wave = (t: number) =>
      Math.sin(2 * Math.PI * 43.7 * t) + 0.08 * Math.sin(2 * Math.PI * 131.1 * t + 0.4);
    return [
      Float64Array.from({ length: 4000 }, (_, i) => 512 + 400 * wave(i / rate) + 2 * random.normal()),
      Float64Array.from(
        { length: 4000 },
        (_, i) => 510 + load * 200 * wave(i / rate - delayS) + 2 * random.normal(),
      ),
    ] as const;
  };

  it('finds the lag of the current sensor within its uncertainty in 93 of 100 trials or more', () => {
    let inside = 0;
    for (let seed = 1; seed <= 200; seed++) {
      const [v, i] = record(0.00031, seed);
      const trim = fitPhaseTrim(v, i, 2000);
      if (typeof trim === 'string') throw new Error(trim);
      if (Math.abs(trim.currentDelayUs - 310) <= 2.26 * trim.u) inside++;
    }
    expect(inside / 200).toBeGreaterThanOrEqual(0.93);
  });

  it('asks for cycles and for a load', () => {
    const [v, i] = record(0, 1);
    expect(fitPhaseTrim(v.subarray(0, 100), i, 2000)).toMatch(/5 are needed/);
    expect(fitPhaseTrim(v, new Float64Array(4000).fill(510), 2000)).toMatch(/Switch on the resistive load/);
  });

  it('refuses a lag of noise alone, and one that no sensor has', () => {
    for (let seed = 1; seed <= 100; seed++) {
      const [v] = record(0, seed);
      const random = seededRandom(1000 + seed);
      const off = Float64Array.from(v, () => 510 + 2 * random.normal());
      expect(fitPhaseTrim(v, off, 2000)).toMatch(/only noise.*lamp/);
    }
    const [v, i] = record(0, 1);
    expect(
      fitPhaseTrim(
        v,
        i.map((x) => 1020 - x),
        2000,
      ),
    ).toMatch(/180°.*two wires/);
  });
});

describe('slip finder', () => {
  const best = (shown: number, expected: number, unit: UnitId) =>
    findSlips([{ shown, expected }], { unit })[0]!;
  it.each<[number, number, UnitId, string]>([
    [9.81, 1, 'kg', 'gravity'],
    [0.102, 1, 'N', 'gravity-inverse'],
    [1500, 1.5, 'A', 'milli'],
    [12.2, 3.05, 'V', 'bits-10-12'],
    [293, 20, 'degC', 'shown-in-K'],
    [68, 20, 'degC', 'shown-in-degF'],
    [-3.2, 3.2, 'N', 'sign'],
    [34.1, 24.1, 'V', 'rms'],
    [90.1, 1.57, 'rad', 'degrees'],
    [7.58, 5, 'V', 'reference'],
  ])('%d shown for %d %s: %s', (shown, expected, unit, id) => {
    const found = best(shown, expected, unit);
    expect(found.ids).toEqual([id]);
    expect(Math.abs(found.corrected / expected - 1)).toBeLessThan(0.06);
    expect(found.test.length).toBeGreaterThan(10);
  });

  it('explains by two slips what no single one does', () => {
    const found = best(2 * 9.80665 * 1000, 2, 'kg');
    expect([...found.ids].sort()).toEqual(['gravity', 'milli']);
  });

  it('says nothing when the value is right, and never a wild guess', () => {
    expect(findSlips([{ shown: 20.3, expected: 20 }], { unit: 'degC' })).toEqual([]);
    for (const f of findSlips([{ shown: 41, expected: 2.9 }], { unit: 'mm' }))
      expect(f.misfit).toBeLessThanOrEqual(0.15);
  });

  it('with a second point tells a missing tare from a factor', () => {
    const found = findSlips(
      [
        { shown: 3.4, expected: 1 },
        { shown: 7.4, expected: 5 },
      ],
      { unit: 'kg' },
    );
    expect(found[0]!.ids).toEqual(['tare']);
  });

  it('finds a wrong gain and a turned divider in the line, and offers the edit', () => {
    const spec = line('count', stage('b', 'bridge', bridge));
    const truth = compileLine(editLine(spec, [{ stageId: 'b', params: { gain: 64 } }]), CONTEXT);
    const raw = invertLine(truth, 10)[0]!;
    const [found] = findSlips([{ shown: 5, expected: 10, raw }], {
      unit: 'kg',
      line: spec,
      sampleRateHz: 10,
    });
    expect(found).toMatchObject({ ids: ['gain-64'], edit: { stageId: 'b', params: { gain: 64 } } });
    const probe = line(
      'count',
      stage('a', 'adc', { bits: 10, referenceV: 5, gives: 'ratio' }),
      stage('d', 'divider', { seriesOhm: 10000, side: 'top' }),
      stage('t', 'thermistor-beta', { r0Ohm: 10000, t0C: 25, betaK: 3950 }),
    );
    const turned = compileLine(editLine(probe, [{ stageId: 'd', params: { side: 'bottom' } }]), CONTEXT);
    const counts = Math.round(invertLine(turned, 60)[0]!);
    const slips = findSlips([{ shown: -2, expected: 60, raw: counts }], {
      unit: 'degC',
      line: probe,
      sampleRateHz: 10,
    });
    expect(slips[0]!.ids).toEqual(['divider-side']);
  });

  it('refuses what it cannot work with', () => {
    expect(() => findSlips([], { unit: 'kg' })).toThrow(/Enter a reading and an expected value/);
    expect(() => findSlips([{ shown: Number.NaN, expected: 1 }], { unit: 'kg' })).toThrow(/received NaN/);
  });
});

describe('a capture in warm-up', () => {
  it('is refused with the reason', () => {
    const times = Array.from({ length: 200 }, (_, i) => i / 10);
    const state = steadyWindow(
      times,
      times.map(() => 500),
      (i) => i > 150 || 'warming up',
      {
        windowS: 10,
        drift: 1,
        scatter: 1,
      },
    );
    expect(state).toMatchObject({
      steady: false,
      waitingFor: 'A reading in the window is invalid: warming up.',
    });
  });
});
