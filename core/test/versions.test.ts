import { describe, expect, it } from 'vitest';
import {
  approachOf,
  driftSeries,
  fitCalibration,
  FITS,
  parameterDrift,
  pointHysteresis,
} from '../src/calibrate/index.ts';
import { compileLine, editLine, invertLine, runLine } from '../src/line/index.ts';
import type { Approach, Calibration, CalibrationPoint, FitResult } from '../src/model/calibration.ts';
import type { LineSpec } from '../src/model/line.ts';
import { dueState } from '../src/references/index.ts';

const CONTEXT = { sampleRateHz: 10 };
const spec: LineSpec = {
  sources: [{ column: 'a', unit: 'V' }],
  stages: [
    {
      id: 'l',
      kind: 'linear',
      params: { slope: 20, intercept: 0, to: 'mm' },
      uncertainty: {},
      off: false,
    },
    { id: 'c', kind: 'gain-offset', params: { gain: 1, offset: 0 }, uncertainty: {}, off: false },
  ],
};
/** Counts fall as the reading grows, as with a thermistor. */
const falling = editLine(spec, [{ stageId: 'l', params: { slope: -20 } }]);

function version(number: number, gain: number, day: number): Calibration {
  const truth = compileLine(editLine(spec, [{ stageId: 'c', params: { gain } }]), CONTEXT);
  const result = fitCalibration(
    FITS.find((f) => f.id === 'gain-offset')!,
    spec,
    CONTEXT,
    [5, 20, 40, 60].map((reading, i) => ({
      id: `p${i}`,
      raw: invertLine(truth, reading)[0]!,
      uRaw: 0.001,
      reference: reading + (i % 2 ? 0.02 : -0.02),
      uReference: 0.05,
    })),
  );
  if (typeof result === 'string') throw new Error(result);
  const createdAt = `2026-03-${String(day).padStart(2, '0')}T12:00:00Z`;
  return { id: `v${number}`, number, result, createdAt } as Calibration;
}

describe('versions against each other', () => {
  const [a, same, moved] = [version(1, 1.02, 1), version(2, 1.02, 11), version(3, 1.05, 21)];

  it('constants: the clearest move first, and shown only beyond both uncertainties', () => {
    expect(parameterDrift(a!.result, same!.result).map((d) => d.shown)).toEqual([false, false]);
    const [first, second] = parameterDrift(a!.result, moved!.result);
    expect(first).toMatchObject({ title: 'Gain', shown: true });
    expect(first!.change).toBeCloseTo(0.03, 2);
    expect(second!.shown).toBe(false);
    const other: FitResult = {
      ...moved!.result,
      parameters: moved!.result.parameters.map((p) => ({ ...p, stageId: 'x' })),
    };
    expect(parameterDrift(a!.result, other)).toEqual([]);
  });

  it('as a series: the reading in the middle, by days since the first, in whatever order they come', () => {
    const series = driftSeries(spec, CONTEXT, [moved!, a!, same!])!;
    expect(series.what).toMatch(/^Reading at \d+ raw counts$/);
    expect(series.places.map((p) => [p.number, p.days])).toEqual([
      [1, 0],
      [2, 10],
      [3, 20],
    ]);
    expect(series.places[0]!.change).toBe(0);
    expect(Math.abs(series.places[1]!.change)).toBeLessThan(1e-9);
    expect(series.places[2]!.change).toBeGreaterThan(series.places[2]!.uncertainty);
  });

  it('follows a constant where no raw range is shared, and passes over what no longer fits the line', () => {
    const apart = { ...moved!, result: { ...moved!.result, validRaw: [90, 95] as [number, number] } };
    const series = driftSeries(spec, CONTEXT, [a!, apart])!;
    expect(series).toMatchObject({ what: 'Gain', unit: '' });
    expect(series.places[1]!.change).toBeCloseTo(0.03, 2);
    expect(driftSeries(spec, CONTEXT, [a!])).toBeNull();
    const gone = { ...spec, stages: spec.stages.slice(0, 1) };
    expect(driftSeries(gone, CONTEXT, [a!, moved!])).toBeNull();
  });
});

describe('the side a reading came from', () => {
  /** A reading that moves for 20 s and stands still for 10, in tenths of a second. */
  const stepTo = (from: number, to: number) =>
    Array.from({ length: 300 }, (_, i) => {
      const ripple = i % 2 ? 0.4 : -0.4;
      return (i < 200 ? from + ((to - from) * i) / 200 : to) + ripple;
    });
  const times = Array.from({ length: 300 }, (_, i) => i / 10);
  const of = (line: LineSpec, from: number, to: number) =>
    approachOf(compileLine(line, CONTEXT), times, stepTo(from, to), 10);

  it('is told in the reading, not in counts', () => {
    expect(of(spec, 100, 500)).toBe('from below');
    expect(of(spec, 900, 500)).toBe('from above');
    expect(of(falling, 100, 500)).toBe('from above');
  });

  it('is not told of noise, of a short stretch or of nothing', () => {
    expect(of(spec, 500, 500)).toBeNull();
    const line = compileLine(spec, CONTEXT);
    expect(approachOf(line, [], [], 10)).toBeNull();
    expect(approachOf(line, times.slice(0, 50), stepTo(100, 500).slice(0, 50), 10)).toBeNull();
    expect(approachOf(line, times, stepTo(100, 500), 10, 0)).toBeNull();
  });

  it('is the last side on which it stood, not the one furthest off', () => {
    const line = compileLine(spec, CONTEXT);
    const t = Array.from({ length: 500 }, (_, i) => i / 10);
    const at = (steps: readonly (readonly [untilS: number, counts: number])[]) =>
      approachOf(
        line,
        t,
        t.map((s, i) => steps.find(([untilS]) => s < untilS)![1] + (i % 2)),
        10,
      );
    // Empty, 10, 20, and 10 again: nothing on it lies a little further off than 20 does.
    expect(
      at([
        [10, 0],
        [20, 1000],
        [38, 2000],
        [50, 1010],
      ]),
    ).toBe('from above');
    // Laid on with a swing beyond it.
    expect(
      at([
        [36, 0],
        [38, 1500],
        [50, 1000],
      ]),
    ).toBe('from below');
  });

  const point = (id: string, raw: number, mm: number, approach?: Approach): CalibrationPoint => ({
    id,
    channelId: 'c',
    role: 'fit',
    reference: { kind: 'instrument', reading: mm, uncertainty: 0.02 },
    worth: { value: mm, uncertainty: 0.02, unit: 'mm', arithmetic: [] } as never,
    capture: { mean: raw, sd: 0.001, n: 100, nEffective: 50, durationS: 10, ...(approach && { approach }) },
    excluded: null,
    keptAt: '2026-01-01T00:00:00Z',
  });

  it('hysteresis is the difference at one reference, less what the references differ by', () => {
    const line = compileLine(editLine(spec, [{ stageId: 'l', params: { slope: 0.02 } }]), CONTEXT);
    const pair = [point('a', 1000, 20, 'from below'), point('b', 1020, 20.01, 'from above')];
    const found = pointHysteresis(pair, line)!;
    expect(found.difference).toBeCloseTo(0.39, 9);
    expect(found.uncertainty).toBeLessThan(0.1);
    expect(pointHysteresis(pair.toReversed(), line)).toEqual(found);
    expect(pointHysteresis([pair[0]!, point('b', 2000, 40, 'from above')], line)).toBeNull();
    expect(pointHysteresis([pair[0]!, point('b', 1020, 20)], line)).toBeNull();
    expect(pointHysteresis([pair[0]!, { ...pair[1]!, excluded: 'knocked' }], line)).toBeNull();
  });
});

describe('a reference of one’s own', () => {
  it.each([
    ['2026-01-31', 1, '2026-02-28'],
    ['2027-12-31', 2, '2028-02-29'],
    ['2026-11-26', 12, '2027-11-26'],
    ['2026-11-30', 1, '2026-12-30'],
    ['2024-02-29', 12, '2025-02-28'],
  ])('checked on %s, good for %d months: due on %s', (checkedOn, goodForMonths, dueOn) => {
    const before = dueState({ checkedOn, goodForMonths }, checkedOn);
    expect(before).toEqual({ dueOn, overdue: false });
    expect(dueState({ checkedOn, goodForMonths }, dueOn).overdue).toBe(true);
  });
});

describe('rate of beats', () => {
  const line = (params: object): LineSpec => ({
    sources: [{ column: 'a', unit: 'V' }],
    stages: [
      {
        id: 'b',
        kind: 'beat-rate',
        params: { over: 4, shortestS: 0.3, memoryS: 4, minHeight: 0.2, to: 'perMin', ...params },
        uncertainty: {},
        off: false,
      },
    ],
  });
  const run = (values: readonly number[], params: object = {}) => {
    const lanes = [
      {
        values: Float64Array.from(values),
        reasons: Uint8Array.from(values, (v) => (Number.isNaN(v) ? 1 : 0)),
      },
    ];
    const times = Float64Array.from(values, (_, i) => i / 50);
    const [out] = runLine(
      compileLine(line(params), { sampleRateHz: 50 }),
      { length: times.length, times, lanes },
      [1],
    );
    return [...out!.lanes[0]!.values];
  };
  const wave = (perMin: number, seconds = 30) =>
    Array.from({ length: 50 * seconds }, (_, i) => 1.5 + Math.sin(((2 * Math.PI * perMin) / 60) * (i / 50)));

  it('gives a reading at each beat once there are enough, in the unit asked for', () => {
    const found = run(wave(72));
    expect(found.length).toBeGreaterThan(28);
    expect(found.length).toBeLessThan(34);
    // The level follows the wave's height for the first beats.
    for (const v of found.slice(4)) expect(v).toBeCloseTo(72, 0);
    expect(run(wave(72), { to: 'Hz' }).at(-1)).toBeCloseTo(1.2, 2);
  });

  it('takes noise for no beats, and begins anew after a bad sample', () => {
    expect(run(wave(72).map((v) => 1.5 + (v - 1.5) / 20))).toEqual([]);
    const broken = wave(72);
    broken[750] = Number.NaN;
    const readings = run(broken).filter(Number.isFinite);
    expect(readings.length).toBeLessThan(run(wave(72)).length - 3);
    for (const v of readings.slice(4)) expect(Math.abs(v - 72)).toBeLessThan(3);
  });
});
