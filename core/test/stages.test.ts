import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  compileLine,
  filterTraits,
  frequencyResponse,
  hasFilterTraits,
  invertLanes,
  lanesAtRest,
  lanesOf,
  priceOfFilter,
  REASON,
  runLine,
  stageKind,
  stagesThatFit,
  zeroPhaseLane,
} from '../src/line/index.ts';
import type { LineSpec, StageSpec } from '../src/model/line.ts';
import { STAGES } from '../src/stages/index.ts';
import { thermocoupleMv } from '../src/stages/thermocoupleTables.ts';
import { UNIT_IDS, type UnitId } from '../src/units/index.ts';
import { caseName, lineOf, samplesOf, STAGE_CASES } from './support/stageCases.ts';
import { cases, relative } from './support/vectors.ts';

const CONTEXT = { sampleRateHz: 20 };
const one = (kind: string, params: StageSpec['params'], units: readonly UnitId[]): LineSpec =>
  lineOf({ kind, params, units, signal: () => 0 });
const atRest = (spec: LineSpec, ...raw: number[]) => lanesAtRest(compileLine(spec, CONTEXT), raw).at(-1)!;
const clock = (n: number, rate = 20) => Float64Array.from({ length: n }, (_, i) => i / rate);
const run = (spec: LineSpec, columns: Float64Array[], rate = 20) =>
  runLine(compileLine(spec, { sampleRateHz: rate }), lanesOf(clock(columns[0]!.length, rate), columns))[0]!;

describe('every stage', () => {
  it('has a case here, so that a new one is tested like the rest', () => {
    const covered = new Set(STAGE_CASES.map((c) => c.kind));
    expect(STAGES.map((s) => s.kind).filter((kind) => !covered.has(kind))).toEqual([]);
  });

  // What takes other channels is cut as a whole, in the readout.
  it.each(STAGE_CASES.filter((c) => !c.beside).map((c) => [caseName(c), c] as const))(
    '%s: cut anywhere, bit-identical',
    (_name, c) => {
      const columns = samplesOf(c, 300);
      const whole = run(lineOf(c), columns);
      fc.assert(
        fc.property(fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 6 }), (pieces) => {
          const line = compileLine(lineOf(c), CONTEXT);
          const lineRun = line.start();
          const times = clock(300);
          const out: number[][] = line.outputs.map(() => []);
          let at = 0;
          for (let i = 0; at < 300; i++) {
            const to = Math.min(300, at + pieces[i % pieces.length]!);
            lineRun.process(
              lanesOf(
                times.slice(at, to),
                columns.map((v) => v.slice(at, to)),
              ),
              (blocks) => {
                const last = blocks.at(-1)!;
                last.lanes.forEach((lane, k) => out[k]!.push(...lane.values.subarray(0, last.length)));
              },
            );
            at = to;
          }
          whole.lanes.forEach((lane, k) => {
            expect(out[k]!.length).toBe(lane.values.length);
            expect(out[k]!.every((v, i) => Object.is(v, lane.values[i]))).toBe(true);
          });
        }),
        { numRuns: 8 },
      );
    },
  );

  it.each(STAGE_CASES.filter((c) => stageKind(c.kind)!.scalar).map((c) => [caseName(c), c] as const))(
    '%s: comes back from its inverse, and its slope is its slope',
    (_name, c) => {
      const map = stageKind(c.kind)!.scalar!(c.params);
      let tried = 0;
      for (let i = 0; i < 200; i++) {
        const x = c.signal(i, 0);
        const y = map.forward(x);
        if (Number.isNaN(y)) continue;
        tried++;
        const back = map.inverse!(y);
        // A curve that turns round beyond its last point has no one inverse there.
        if (c.name === 'not-a-knot-cubic' && Number.isNaN(back)) continue;
        expect(Math.abs(map.forward(back) - y)).toBeLessThan(1e-7 * Math.max(1, Math.abs(y)));
        const h = 1e-5 * Math.max(0.1, Math.abs(x));
        const numeric = (map.forward(x + h) - map.forward(x - h)) / (2 * h);
        if (map.derivative && Number.isFinite(numeric) && c.name !== 'linear')
          expect(Math.abs(map.derivative(x) - numeric)).toBeLessThan(1e-4 * Math.abs(numeric) + 1e-9);
      }
      expect(tried).toBeGreaterThan(20);
    },
  );

  it('starts with parameters that compile wherever it is offered', () => {
    const rows: UnitId[][] = [
      ...UNIT_IDS.flatMap((u) => [[u], [u, u], [u, u, u]]),
      ['uT', 'uT', 'uT', 'gn', 'gn', 'gn'],
      ['mV', 'degC'],
    ];
    for (const units of rows)
      for (const s of stagesThatFit(units)) {
        const params = s.defaultsFor?.(units) ?? s.defaults;
        expect(() => compileLine(one(s.kind, params, units), { sampleRateHz: 100 })).not.toThrow();
      }
  });

  it.each(STAGES.map((s) => [s.kind, s] as const))(
    '%s: refuses what it does not know and what is missing',
    (_kind, s) => {
      expect(() => compileLine(one(s.kind, { ...s.defaults, surprise: 1 }, ['count']), CONTEXT)).toThrow(
        /no parameter “surprise”|needs/,
      );
      const [name] = s.params.required ?? [];
      if (name) {
        const { [name]: _gone, ...rest } = s.defaults;
        expect(() => compileLine(one(s.kind, rest, ['count']), CONTEXT)).toThrow(/: (enter|choose) /);
      }
    },
  );
});

describe('conversions against independent tables', () => {
  it.each(cases('thermocouple'))('thermocouple $type', (c) => {
    c.t_c.forEach((t: number, i: number) => {
      expect(Math.abs(thermocoupleMv(c.type, t) - c.mv[i])).toBeLessThan(0.0006);
      const [back] = atRest(
        one('thermocouple', { type: c.type, coldC: 0 }, ['mV']),
        thermocoupleMv(c.type, t),
      );
      expect(back).toBeCloseTo(t, 6);
    });
  });

  it('counts the cold junction in by voltage, not by degrees', () => {
    const mv = thermocoupleMv('K', 300) - thermocoupleMv('K', 31);
    expect(atRest(one('thermocouple', { type: 'K', coldC: 0 }, ['mV', 'degC']), mv, 31)[0]).toBeCloseTo(
      300,
      6,
    );
  });

  it('platinum element', () => {
    for (const c of cases('platinum_rtd'))
      c.t_c.forEach((t: number, i: number) => {
        const line = compileLine(one('platinum-rtd', { r0Ohm: 100 }, ['ohm']), CONTEXT);
        expect(Math.abs(invertLanes(line, [t])[0]![0]! - c.ohm[i])).toBeLessThan(0.0051);
        if (t > -200) expect(lanesAtRest(line, c.ohm[i])[1]![0]!).toBeCloseTo(t, 1);
      });
  });

  it.each(cases('ac_power'))('distorted AC at $frequency_hz Hz', (c) => {
    const spec = one(
      'ac-power',
      {
        voltsPerUnit: 1,
        voltageBias: 0,
        amperesPerUnit: 1,
        currentBias: 0,
        currentDelayUs: 0,
        cycles: 10,
        deadBandV: 2,
      },
      ['V', 'A'],
    );
    const out = run(spec, [Float64Array.from(c.voltage), Float64Array.from(c.current)], c.sample_rate_hz);
    const expected = [c.v_rms, c.i_rms, c.real_w, c.apparent_va, c.power_factor, c.frequency_hz];
    expect(out.times.length).toBeGreaterThan(3);
    out.times.forEach((_, i) =>
      expected.forEach((v, k) => expect(relative(out.lanes[k]!.values[i]!, v)).toBeLessThan(0.002)),
    );
  });

  it.each(cases('six_position'))('six rests', (c) => {
    const [[a, b, e], [d, f, g], [h, i, j]] = c.scale;
    // raw = scale g + bias, so the correction is the inverse matrix; walk the stage backwards instead.
    const spec = one('vector-correction', { offset: c.bias, matrix: [a, b, e, d, f, g, h, i, j], to: 'gn' }, [
      'gn',
      'gn',
      'gn',
    ]);
    const line = compileLine(spec, CONTEXT);
    c.raw.forEach((raw: number[], n: number) => {
      const forward = lanesAtRest(line, c.gravity[n]);
      expect(forward).toHaveLength(2);
      const back = invertLanes(
        line,
        raw.map((v, k) => v - c.bias[k]),
      );
      back[0]!.forEach((v, k) => expect(v - c.bias[k]).toBeCloseTo(c.gravity[n][k], 9));
    });
  });
});

describe('conversions with exact answers', () => {
  it.each<[string, StageSpec['params'], UnitId[], number[], number[]]>([
    ['time-of-flight', { airC: 0, path: 'there and back', offsetM: 0, from: 'ms' }, ['ms'], [10], [1.6565]],
    ['weight-force', { gravity: 9.80665 }, ['kg'], [2], [19.6133]],
    ['magnitude', {}, ['gn', 'gn', 'gn'], [2, -3, 6], [7]],
    ['change-unit', { from: 'N', to: 'lbf' }, ['N'], [4.4482216152605], [1]],
    [
      'absorbance',
      { dark: 100, blank: 10100, fullScale: 65535, gives: 'absorbance' },
      ['count'],
      [1100],
      [1],
    ],
    [
      'concentration',
      { slope: 0.02, intercept: 0.01, dilution: 10, to: 'mgL' },
      ['absorbance'],
      [0.41],
      [200],
    ],
    ['load-resistor', { loadOhm: 10000, supplyV: 5 }, ['V'], [1], [40000]],
    ['power-law', { factor: 100, exponent: -2, to: 'ppm' }, ['1'], [0.5], [400]],
    ['formula', { expression: '(x1 + 3) ^ 2 / x2', to: '1' }, ['V', 'V'], [1, 8], [2]],
    [
      'bridge',
      { zero: 0, fullScaleCode: 1000, range: 0.5, gain: 100, ratedMvPerV: 5, capacityKg: 20 },
      ['count'],
      [500],
      [10],
    ],
  ])('%s', (kind, params, units, raw, expected) => {
    atRest(one(kind, params, units), ...raw).forEach((v, k) => expect(v).toBeCloseTo(expected[k]!, 10));
  });

  it.each([
    [[1, 0, 0], 0],
    [[0, 1, 0], 90],
    [[-1, 0, 0], 180],
    [[0, -1, 0], 270],
  ])('heading: field %j along the axes reads %d degrees', (field, expected) => {
    const spec = one('heading', { declinationDeg: 0, mountingDeg: 0 }, ['uT', 'uT', 'uT', 'gn', 'gn', 'gn']);
    expect(atRest(spec, ...field, 0, 0, 1)[0]).toBeCloseTo(expected, 9);
  });

  it('heading does not change with tilt, and wraps into 0 to 360', () => {
    const spec = one('heading', { declinationDeg: 15, mountingDeg: 0 }, ['uT', 'uT', 'uT', 'gn', 'gn', 'gn']);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 359.9, noNaN: true }),
        fc.double({ min: -60, max: 60, noNaN: true }),
        (course, rollDeg) => {
          const [h, r] = [(course * Math.PI) / 180, (rollDeg * Math.PI) / 180];
          // North, east, down in the gadget's axes (x forward, y left, z up), then rolled about x.
          const level = [20 * Math.cos(h), 20 * Math.sin(h), -40];
          const rolled = (v: number[]) => [
            v[0]!,
            v[1]! * Math.cos(r) + v[2]! * Math.sin(r),
            -v[1]! * Math.sin(r) + v[2]! * Math.cos(r),
          ];
          const [reading] = atRest(spec, ...rolled(level), ...rolled([0, 0, 1]));
          const off = Math.abs(reading! - ((course + 15) % 360));
          expect(Math.min(off, 360 - off)).toBeLessThan(1e-6);
          expect(reading! >= 0 && reading! < 360).toBe(true);
        },
      ),
    );
  });

  it.each(['linear', 'pchip'])(
    'a table that rises gives a curve that rises (%s), whatever the points',
    (method) => {
      const steps = fc.array(
        fc.tuple(
          fc.double({ min: 0.01, max: 9, noNaN: true }),
          fc.double({ min: 0.01, max: 9, noNaN: true }),
        ),
        { minLength: 2, maxLength: 12 },
      );
      fc.assert(
        fc.property(
          steps,
          fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 2, maxLength: 20 }),
          (pairs, places) => {
            const sums = (k: 0 | 1) =>
              pairs.map((_, i) => pairs.slice(0, i + 1).reduce((s, p) => s + p[k], 0));
            const [xs, ys] = [sums(0), sums(1)];
            const spec = one('table', { xs, ys, method, beyond: 'go on', to: 'mm' }, ['V']);
            const line = compileLine(spec, CONTEXT);
            const at = places.sort((a, b) => a - b).map((p) => xs[0]! - 1 + p * (xs.at(-1)! - xs[0]! + 2));
            const out = at.map((x) => lanesAtRest(line, x).at(-1)![0]!);
            out.forEach((y, i) => expect(i === 0 || y >= out[i - 1]! - 1e-9 * Math.abs(y)).toBe(true));
            // Where the curve ends flat, its inverse is any place of it: what counts is that it leads back.
            out.forEach((y) => {
              const [back] = invertLanes(line, [y])[0]!;
              if (!Number.isNaN(back))
                expect(Math.abs(lanesAtRest(line, back!).at(-1)![0]! - y)).toBeLessThan(
                  1e-6 * (1 + Math.abs(y)),
                );
            });
          },
        ),
      );
    },
  );

  it('the mean of a direction turns with the directions', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 60, noNaN: true }), { minLength: 1, maxLength: 30 }),
        fc.integer({ min: 0, max: 359 }),
        (angles, turn) => {
          const mean = (shift: number) =>
            run(one('circular-mean', { timeConstantS: 0.4 }, ['deg']), [
              Float64Array.from(angles, (a) => (a + shift) % 360),
            ]).lanes[0]!.values.at(-1)!;
          const off = Math.abs(((mean(turn) - mean(0) - turn) % 360) + 360) % 360;
          expect(Math.min(off, 360 - off)).toBeLessThan(1e-6);
        },
      ),
    );
  });

  it('smooths directions across north: the mean of 350 and 10 is 0, never 180', () => {
    const out = run(one('circular-mean', { timeConstantS: 5 }, ['deg']), [
      Float64Array.from({ length: 2000 }, (_, i) => (i % 2 ? 350 : 10)),
    ]);
    const last = out.lanes[0]!.values.at(-1)!;
    expect(Math.min(last, 360 - last)).toBeLessThan(0.2);
  });

  it('gate and period agree on a steady wheel, and the dead time drops glitches', () => {
    const gate = run(one('gate-rate', { marks: 4, gateS: 1, to: 'rpm' }, ['count']), [
      Float64Array.from({ length: 200 }, (_, i) => 2 * i),
    ]);
    expect(Array.from(gate.lanes[0]!.values).every((v) => Math.abs(v - 600) < 1e-6)).toBe(true);
    const stamps = Array.from({ length: 40 }, (_, i) => i * 25000).flatMap((t, i) =>
      i === 20 ? [t, t + 300] : [t],
    );
    const spec = one('period-rate', { marks: 4, over: 'one turn', deadTimeS: 0.001, from: 'us', to: 'rpm' }, [
      'us',
    ]);
    const period = runLine(
      compileLine(spec, CONTEXT),
      lanesOf(
        Float64Array.from(stamps, (t) => t / 1e6),
        [Float64Array.from(stamps)],
      ),
    )[0]!;
    expect(period.lanes[0]!.values).toHaveLength(36);
    expect(Array.from(period.lanes[0]!.values).every((v) => Math.abs(v - 600) < 1e-9)).toBe(true);
  });

  it('brings the current of a late sensor back into phase', () => {
    const rate = 4000;
    const delay = 0.0011;
    const wave = (peak: number, shift: number) =>
      Float64Array.from({ length: 4000 }, (_, i) => peak * Math.sin(2 * Math.PI * 42 * (i / rate - shift)));
    const factor = (currentDelayUs: number) =>
      run(
        one('ac-power', { ...stageKind('ac-power')!.defaults, currentDelayUs, cycles: 5 }, ['V', 'A']),
        [wave(34, 0), wave(2, delay)],
        rate,
      ).lanes[4]!.values[1]!;
    expect(factor(0)).toBeCloseTo(Math.cos(2 * Math.PI * 42 * delay), 3);
    expect(factor(1100)).toBeCloseTo(1, 4);
  });

  it.each([-820, 0, 510, 1100, 1370])(
    'measures power whatever the sensor lags by: %i us',
    (currentDelayUs) => {
      const wave = (peak: number, shiftS: number) =>
        Float64Array.from(
          { length: 4000 },
          (_, i) => peak * Math.sin(2 * Math.PI * 42 * (i / 2000 - shiftS)),
        );
      const { values } = run(
        one('ac-power', { ...stageKind('ac-power')!.defaults, currentDelayUs, cycles: 10 }, ['V', 'A']),
        [wave(34, 0), wave(2, currentDelayUs * 1e-6)],
        2000,
      ).lanes[2]!;
      // Through four samples it would be up to 8e-6 too little.
      for (const watts of values.filter(Number.isFinite)) expect(Math.abs(watts / 34 - 1)).toBeLessThan(3e-6);
    },
  );

  it('codes a clock that steps back, and measures rightly again after it', () => {
    const times = Float64Array.from({ length: 400 }, (_, i) => (i < 200 ? 5000 + i / 20 : 1000 + i / 20));
    const count = Float64Array.from({ length: 400 }, (_, i) => 2 * i);
    const through = (kind: string, params: StageSpec['params'], columns: Float64Array[], units: UnitId[]) =>
      runLine(compileLine(one(kind, params, units), CONTEXT), lanesOf(times, columns))[0]!;
    const gate = through('gate-rate', { marks: 4, gateS: 1, to: 'rpm' }, [count], ['count']);
    expect(gate.lanes[0]!.reasons.filter((r) => r === REASON.backwards)).toHaveLength(1);
    const good = gate.lanes[0]!.values.filter((v) => !Number.isNaN(v));
    expect(good.length).toBeGreaterThan(16);
    expect(good.every((v) => Math.abs(v - 600) < 1e-6)).toBe(true);
    const warm = through('warm-up', { warmUpS: 12 }, [count], ['count']);
    expect(warm.lanes[0]!.reasons.filter((r) => r === REASON.warmingUp).length).toBeCloseTo(241, -1);
    const sine = times.map((_, i) => 10 * Math.sin(i * 0.8));
    const ac = through(
      'ac-power',
      { ...stageKind('ac-power')!.defaults, cycles: 2 },
      [sine, sine],
      ['V', 'A'],
    );
    expect(ac.lanes[0]!.reasons).toContain(REASON.backwards);
    expect(ac.lanes[0]!.values.every((v) => Number.isNaN(v) || Math.abs(v / Math.sqrt(50) - 1) < 0.05)).toBe(
      true,
    );
  });

  it('marks warm-up, saturation and domain with their reasons', () => {
    const warm = run(one('warm-up', { warmUpS: 1 }, ['V']), [new Float64Array(40).fill(2)]);
    expect(Array.from(warm.lanes[0]!.reasons.subarray(18, 22))).toEqual([6, 6, 0, 0]);
    const light = run(one('absorbance', stageKind('absorbance')!.defaults, ['count']), [
      Float64Array.from([65535, 0, 25000]),
    ]);
    expect(Array.from(light.lanes[0]!.reasons)).toEqual([
      REASON.saturatedHigh,
      REASON.saturatedLow,
      REASON.ok,
    ]);
  });
});

describe('own formulas', () => {
  const compile = (expression: string) => () =>
    compileLine(one('formula', { expression, to: '1' }, ['V']), CONTEXT);
  it.each([
    ['2 +* x', /Cannot read the formula/],
    ['x = 4', /Cannot read the formula/],
    ['f(x) = x', /Cannot read the formula/],
    ['import("fs")', /“import” is not allowed/],
    ['constructor(x)', /“constructor” is not allowed/],
    ['x.constructor', /is not allowed/],
    ['hypot(x)', /needs 2 values; received 1/],
    ['x2 + 1', /as many columns as the formula uses/],
    ['"text"', /is not allowed/],
    ['x, x', /is not allowed/],
    ['x ? 1 : 2', /cannot be read|is not allowed/],
    ['this', /is not allowed/],
    ['[x]', /cannot be read|is not allowed/],
    ['', /cannot be read|is not allowed/],
    ['x % 2', /“%” is not allowed/],
  ])('%s is refused', (expression, message) => expect(compile(expression)).toThrow(message));

  it.each([
    ['-x^2', 3, -9],
    ['(-x)^2', 3, 9],
    ['2^-x', 1, 0.5],
    ['2^3^2 + 0*x', 1, 512],
    ['-2 * -x', 3, 6],
    ['1 - -x - 1', 3, 3],
    ['8 / 2 / x', 2, 2],
    ['+x * -(1 + 1) ^ 2', 3, -12],
    ['max(x, -4) * 1e-3', 2, 0.002],
    ['- x ^ 2 ^ 0.5', 4, -(4 ** Math.SQRT2)],
  ])('%s at %d is %d', (expression, x, expected) => {
    expect(atRest(one('formula', { expression, to: '1' }, ['V']), x)[0]).toBeCloseTo(expected, 9);
  });

  it('gives no number instead of an infinite one', () => {
    expect(atRest(one('formula', { expression: '1 / x', to: '1' }, ['V']), 0)[0]).toBeNaN();
  });
});

describe('filters that are not low-pass', () => {
  const traits = (kind: string) => filterTraits(stageKind(kind)!, stageKind(kind)!.defaults, CONTEXT);

  it.each(STAGES.filter(hasFilterTraits).map((s) => [s.kind]))(
    '%s tells delay, settling and noise gain',
    (kind) => {
      const t = traits(kind);
      for (const v of [t.delayS, t.settlingS, t.noiseGain]) expect(v).toBeGreaterThanOrEqual(0);
    },
  );

  it('a median of five is two readings late and calms noise to about a half', () => {
    const t = filterTraits(stageKind('moving-median')!, { width: 5 }, CONTEXT);
    expect(t.delayS).toBeCloseTo(0.1, 9);
    expect(t.noiseGain).toBeCloseTo(0.536, 1);
  });

  it('spike removal takes the spike and leaves the rest alone', () => {
    const x = Float64Array.from({ length: 60 }, (_, i) => Math.sin(i / 8) + 0.01 * ((i * 7) % 5));
    x[30] = 50;
    const out = run(one('hampel', { width: 7, limit: 4, floor: 0.6 }, ['V']), [x]).lanes[0]!.values;
    expect(Math.abs(out[30]!)).toBeLessThan(1.1);
    expect(x.filter((v, i) => i !== 30 && v !== out[i])).toHaveLength(0);
  });

  it('agrees with itself: response by formula and by running', () => {
    for (const kind of ['butterworth-bandpass', 'notch', 'fir', 'smoothing-polynomial']) {
      const s = stageKind(kind)!;
      const { response: _formula, ...bare } = s;
      const frequencies = [0.3, 1, 2.5, 7];
      const a = frequencyResponse(s, s.defaults, CONTEXT, frequencies)!;
      const b = frequencyResponse(bare, s.defaults, CONTEXT, frequencies)!;
      a.forEach((h, i) => {
        expect(h.re).toBeCloseTo(b[i]!.re, 6);
        expect(h.im).toBeCloseTo(b[i]!.im, 6);
      });
    }
    expect(frequencyResponse(stageKind('moving-median')!, { width: 5 }, CONTEXT, [1])).toBeNull();
  });

  it('slope and sum over time undo each other', () => {
    const x = Float64Array.from({ length: 400 }, (_, i) => 3 + 2 * (i / 20));
    const slope = run(one('rate-of-change', { width: 5 }, ['m']), [x]).lanes[0]!.values;
    expect(slope[200]).toBeCloseTo(2, 9);
    const sum = run(one('integrate', { leakS: 0 }, ['mps']), [new Float64Array(401).fill(2)]).lanes[0]!
      .values;
    expect(sum[400]).toBeCloseTo(40, 9);
  });

  it('filters a recording without delay, between its gaps', () => {
    const s = stageKind('butterworth-lowpass')!;
    const values = Float64Array.from({ length: 400 }, (_, i) => Math.sin(i / 30));
    const reasons = new Uint8Array(400);
    reasons.fill(REASON.missing, 200, 205);
    reasons.fill(REASON.missing, 210, 211);
    const out = zeroPhaseLane(s, { order: 2, cutoffHz: 2 }, CONTEXT, { values, reasons });
    expect(Math.abs(out.values[100]! - values[100]!)).toBeLessThan(0.002);
    expect(out.reasons[207]).toBe(REASON.waiting);
    expect(() => zeroPhaseLane(stageKind('peak-hold')!, {}, CONTEXT, { values, reasons })).toThrow(
      /no zero-delay form/,
    );
  });

  it('a peak hold loses nothing of a pulse, a slow median all of it', () => {
    const event = { kind: 'pulse', widthS: 0.2 } as const;
    const price = (kind: string, params: StageSpec['params']) =>
      priceOfFilter(stageKind(kind)!, params, CONTEXT, event)!.amount;
    expect(price('peak-hold', { holdS: 1, decayS: 1, of: 'value' })).toBeCloseTo(0, 6);
    expect(price('moving-median', { width: 15 })).toBeCloseTo(1, 6);
  });

  it('a filter too sharp for its rate is refused, not run', () => {
    expect(() =>
      compileLine(one('butterworth-bandpass', { order: 6, lowHz: 1e-9, highHz: 2e-9 }, ['V']), CONTEXT),
    ).toThrow(/unstable/);
    expect(() => compileLine(one('notch', { notchHz: 12, q: 5 }, ['V']), CONTEXT)).toThrow(
      /below half the sampling rate \(10 Hz\); received 12/,
    );
  });

  it('thins with the rate that follows it', () => {
    const spec: LineSpec = {
      sources: [{ column: 'a', unit: 'V' }],
      stages: [
        { id: 'd', kind: 'decimate', params: { factor: 4, keep: 'mean' }, uncertainty: {}, off: false },
        {
          id: 'l',
          kind: 'butterworth-lowpass',
          params: { order: 2, cutoffHz: 3 },
          uncertainty: {},
          off: false,
        },
      ],
    };
    expect(() => compileLine(spec, CONTEXT)).toThrow(/below half the sampling rate \(2.5 Hz\)/);
    expect(compileLine(spec, { sampleRateHz: 40 }).outputRateHz).toBe(10);
  });
});
