import { describe, expect, it } from 'vitest';
import {
  acMiddle,
  acRms,
  cleanAirLevel,
  dragMean,
  shortDrags,
  fitGuided,
  GUIDED_FITS,
  mergeGuided,
  miscount,
  turnBetween,
  withNeutralAxes,
} from '../src/calibrate/index.ts';
import { compileLine, editLine, runLine } from '../src/line/index.ts';
import type { FitResult } from '../src/model/calibration.ts';
import type { Evidence } from '../src/model/evidence.ts';
import type { LineSpec } from '../src/model/line.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { lineOf } from './support/intervals/guidedCases.ts';

const fitId = (id: string, line: LineSpec, evidence: readonly Evidence[], excluded: string | null = null) =>
  fitGuided(
    GUIDED_FITS.find((f) => f.id === id)!,
    line,
    evidence.map((e, i) => ({ id: `e${i}`, evidence: e, excluded: i === 0 ? excluded : null })),
    { sampleRateHz: 2000 },
  );

const good = (result: FitResult | string): FitResult => {
  if (typeof result === 'string') throw new Error(result);
  return result;
};

describe('acMiddle', () => {
  const swing = (n: number, perCycle: number, middle: number, size: number, lag = 0) =>
    Float64Array.from(
      { length: n },
      (_, i) => middle + size * Math.sin((2 * Math.PI * (i - lag)) / perCycle),
    );

  it('is the middle whatever part of a swing the stretch begins and ends in', () => {
    for (const n of [1000, 1017, 1033]) {
      const found = acMiddle(swing(n, 47.3, 2060.4, 800), swing(n, 47.3, 2048.2, 90, 5));
      if (typeof found === 'string') throw new Error(found);
      expect(found.voltage).toBeCloseTo(2060.4, 1);
      expect(found.current).toBeCloseTo(2048.2, 1);
      // A plain mean of the same stretch is off by a count or more.
      expect(found.cycles).toBeGreaterThan(18);
    }
  });
  it('wants five whole cycles', () => {
    expect(acMiddle(swing(150, 47, 0, 1), swing(150, 47, 0, 1))).toMatch(/Only \d whole cycles/);
    expect(acMiddle(new Float64Array(500).fill(7), new Float64Array(500))).toMatch(/5 are needed/);
  });
});

describe('withNeutralAxes', () => {
  it('changes no reading, keeps a correction that is there, and gives its stage an id of its own', () => {
    const made = lineOf('heading');
    expect(withNeutralAxes(made, 'count')).toBe(made);
    const line = { ...made, stages: made.stages.slice(1) };
    const right = withNeutralAxes(line, 'count');
    expect(right.stages.map((s) => s.kind)).toEqual(['vector-correction', ...line.stages.map((s) => s.kind)]);
    const taken = { ...line, stages: line.stages.map((s, i) => (i === 0 ? { ...s, id: 'axes' } : s)) };
    const ids = withNeutralAxes(taken, 'count').stages.map((s) => s.id);
    expect(new Set(ids).size).toBe(ids.length);
    const lanes = [300, -120, 410, 90, 30, 4096].map((v) => ({
      values: Float64Array.of(v),
      reasons: new Uint8Array(1),
    }));
    const shown = [line, right].map((spec) => {
      const compiled = compileLine(spec, { sampleRateHz: 20 });
      const taps = runLine(compiled, { length: 1, times: Float64Array.of(0), lanes }, [spec.stages.length]);
      return taps[0]!.lanes[0]!.values[0]!;
    });
    expect(shown[0]).toBeGreaterThan(0);
    expect(shown[1]).toBe(shown[0]);
  });
});

describe('fitGuided', () => {
  const bearing = (shownDeg: number, referenceDeg: number, uShownDeg = 0.2): Evidence => ({
    kind: 'bearing',
    title: 'Along the weir',
    shownDeg,
    uShownDeg,
    referenceDeg,
    uncertaintyDeg: 1,
  });

  it('passes over what is left out and what is of another kind', () => {
    const line = lineOf('heading');
    const rest: Evidence = { kind: 'rest', raw: [0, 0, 2048], u: 1 };
    const all = [bearing(90, 180), bearing(10, 12), rest];
    expect(good(fitId('landmark', line, all)).parameters[0]!.value).toBeGreaterThan(10);
    expect(good(fitId('landmark', line, all, 'somebody stood by it')).parameters[0]!.value).toBeCloseTo(2, 9);
  });

  it('says what is missing: the stage, or the evidence', () => {
    expect(fitId('time-base', lineOf('heading'), [])).toMatch(/The line has no .*gain-offset.*Line page/);
    for (const [id, template] of [
      ['landmark', 'heading'],
      ['turned', 'heading'],
      ['ac-middle', 'ac-power'],
      ['ac-lag', 'ac-power'],
      ['ac-scale', 'ac-power'],
      ['drags', 'displacement'],
      ['six-rests', 'motion-counter'],
      ['time-base', 'rotation'],
    ] as const)
      expect(typeof fitId(id, lineOf(template), []), id).toBe('string');
  });

  it('keeps what each constant was before', () => {
    const line = editLine(lineOf('heading'), [
      { stageId: lineOf('heading').stages.find((s) => s.kind === 'heading')!.id, params: { mountingDeg: 7 } },
    ]);
    const [p] = good(fitId('landmark', line, [bearing(350, 10)])).parameters;
    expect(p).toMatchObject({ param: 'mountingDeg', before: 7 });
    expect(p!.value).toBeCloseTo(27, 9);
  });

  it('means courses round the circle, not through it', () => {
    expect(turnBetween(350, 10)).toBe(20);
    expect(turnBetween(10, 350)).toBe(-20);
    expect(turnBetween(0, 180)).toBe(-180);
    const found = good(fitId('landmark', lineOf('heading'), [bearing(0, 179), bearing(90, 271)]));
    expect(Math.abs(turnBetween(found.parameters[0]!.value, 180))).toBeLessThan(1e-9);
    expect(found.residuals.map((r) => Math.round(r.after!))).toEqual([1, -1]);
  });
});

describe('alternating current, from middle to scale', () => {
  const line = lineOf('ac-power');
  const wave = (random: ReturnType<typeof seededRandom>, load = 1) => {
    const phase = 6 * random.uniform();
    const at = (i: number, lagS: number) => Math.sin(2 * Math.PI * 43.7 * (i / 2000 - lagS) + phase);
    const column = (middle: number, size: number, lagS: number) =>
      Array.from({ length: 4000 }, (_, i) => middle + size * at(i, lagS) + 2 * random.normal());
    return { voltage: column(2060.4, 800, 0), current: column(2048.2, 90 * load, 0.0003) };
  };

  it('effective values are those about the middle, and ask for cycles and a load', () => {
    const { voltage, current } = wave(seededRandom(3));
    const found = acRms(Float64Array.from(voltage), Float64Array.from(current));
    if (typeof found === 'string') throw new Error(found);
    expect(found.voltage.rms).toBeCloseTo(Math.hypot(800 / Math.SQRT2, 2), 0);
    expect(found.current.rms).toBeCloseTo(Math.hypot(90 / Math.SQRT2, 2), 0);
    const raised = acRms(
      Float64Array.from(voltage, (v) => v + 500),
      Float64Array.from(current),
    );
    expect(raised).toMatchObject({ cycles: found.cycles });
    expect((raised as typeof found).voltage.rms).toBeCloseTo(found.voltage.rms, 6);
    expect(acRms(Float64Array.from(voltage.slice(0, 90)), Float64Array.from(current))).toMatch(
      /5 are needed/,
    );
    expect(acRms(Float64Array.from(voltage), new Float64Array(4000).fill(9))).toMatch(/Switch on a load/);
  });

  it('a later step keeps what an earlier one found, and takes the place of its own kind', () => {
    const random = seededRandom(8);
    const middle = good(fitId('ac-middle', line, [{ kind: 'ac-middle', ...wave(random) }]));
    const lag = good(fitId('ac-lag', line, [{ kind: 'ac-lag', ...wave(random) }]));
    const both = mergeGuided(mergeGuided(null, middle), lag);
    expect(both.parameters.map((p) => p.param)).toEqual(['voltageBias', 'currentBias', 'currentDelayUs']);
    expect(both.covariance).toHaveLength(3);
    expect(both.covariance[2]).toEqual([0, 0, lag.covariance[0]![0]]);
    expect(both.edits).toHaveLength(1);
    expect(Object.keys(both.edits[0]!.params!).sort()).toEqual([
      'currentBias',
      'currentDelayUs',
      'voltageBias',
    ]);
    const again = good(fitId('ac-middle', line, [{ kind: 'ac-middle', ...wave(random) }]));
    const renewed = mergeGuided(both, again);
    expect(renewed.parameters.map((p) => p.param)).toEqual(['currentDelayUs', 'voltageBias', 'currentBias']);
    expect(renewed.parameters[1]!.value).toBe(again.parameters[0]!.value);
    expect(renewed.edits[0]!.params).toMatchObject(again.edits[0]!.params!);
  });

  it('a fit of another kind is not joined with', () => {
    const random = seededRandom(8);
    const middle = good(fitId('ac-middle', line, [{ kind: 'ac-middle', ...wave(random) }]));
    expect(mergeGuided({ ...middle, fit: 'gain-offset' }, middle)).toBe(middle);
  });
});

describe('drags along a rule', () => {
  const drag = (x: number, y: number, lengthMm = 300): Extract<Evidence, { kind: 'drag' }> => ({
    kind: 'drag',
    counts: [x, y],
    lengthMm,
    toleranceMm: 0.2,
    placementMm: 0.3,
  });

  it('mean along its own axis, both ways, whatever the order', () => {
    const all = [drag(6000, 20), drag(-6060, 8), drag(-30, 5900)];
    const mean = dragMean(all, 0)!;
    expect(mean).toMatchObject({ n: 2 });
    expect(mean.value).toBeCloseTo(20.1, 2);
    expect(mean.directions!.percent).toBeCloseTo(-1, 1);
    expect(dragMean([...all].reverse(), 0)!.value).toBeCloseTo(mean.value, 12);
    expect(dragMean(all, 1)).toMatchObject({ n: 1, directions: null });
    expect(dragMean([drag(1, 100)], 0)).toBeNull();
  });

  it('the rule’s own error does not average away', () => {
    const one = dragMean([drag(6000, 0)], 0)!;
    const many = dragMean(
      Array.from({ length: 100 }, () => drag(6000, 0)),
      0,
    )!;
    const rule = (0.2 / Math.sqrt(3) / 300) * 20;
    expect(many.u).toBeLessThan(one.u);
    expect(many.u).toBeGreaterThan(rule);
    expect(many.u).toBeLessThan(1.1 * rule);
  });

  it('tells the one that lost counts, and only against its own axis and direction', () => {
    const all = [drag(6000, 0), drag(5980, 0), drag(2500, 0), drag(-5600, 0), drag(0, 3000)];
    expect(shortDrags(all)).toEqual([false, false, true, false, false]);
    expect(shortDrags([drag(2500, 0)])).toEqual([false]);
    expect(shortDrags([])).toEqual([]);
    // Half the length has half the counts.
    expect(shortDrags([drag(6000, 0), drag(3000, 0, 150)])).toEqual([false, false]);
  });

  it('asks for the axis that the line measures', () => {
    const line = lineOf('displacement');
    const stage = line.stages.find((s) => s.kind === 'counts-to-length')!;
    const along = editLine(line, [{ stageId: stage.id, params: { mode: 'along y' } }]);
    expect(fitId('drags', along, [drag(6000, 3)])).toMatch(/Needs a drag along y: the line measures along y/);
    const found = good(fitId('drags', along, [drag(6000, 3), drag(4, 5800)]));
    expect(found.edits[0]!.params!['perMmX']).toBeCloseTo(20, 9);
    expect(found.edits[0]!.params!['perMmY']).toBeCloseTo(5800 / 300, 9);
  });
});

describe('time base', () => {
  const rate = (readingHz: number, uReadingHz = 0.001): Extract<Evidence, { kind: 'rate' }> => ({
    kind: 'rate',
    title: 'Stopwatch tally',
    referenceHz: 10,
    uncertaintyHz: 0.01,
    readingHz,
    uReadingHz,
    seconds: 60,
  });

  it.each([
    [20, /is counted twice/],
    [5, /Half of the marks are missed/],
    [30, /three times/],
    [10 / 3, /Two out of three/],
    [7.5, /missed, or the number of marks is set too high/],
    [13.33, /The number of marks is set too low/],
  ])('%d for 10 is a miscount, and no clock', (shown, told) => {
    expect(miscount(rate(shown))).toMatch(told);
    expect(fitId('time-base', lineOf('rotation'), [rate(10.02), rate(shown)])).toMatch(
      /cannot be corrected from/,
    );
  });

  it('lets a clock be a few per cent off', () => {
    for (const shown of [9.6, 10, 10.4]) expect(miscount(rate(shown))).toBeNull();
    const found = good(fitId('time-base', lineOf('rotation'), [rate(9.6)]));
    expect(found.parameters[0]!.value).toBeCloseTo(10 / 9.6, 9);
  });
});

describe('cleanAirLevel', () => {
  it('is what the curve gives at a ratio of 1, for gas lines only', () => {
    const line = lineOf('gas-watch');
    const level = cleanAirLevel(line, { sampleRateHz: 2 })!;
    const curve = line.stages.find((s) => s.kind === 'log-log-curve' || s.kind === 'power-law');
    expect(level).toBeGreaterThan(0);
    expect(curve).toBeDefined();
    expect(cleanAirLevel(lineOf('rotation'), { sampleRateHz: 2 })).toBeNull();
    const off = {
      ...line,
      stages: line.stages.map((s) => (s.kind === 'ratio-to-baseline' ? { ...s, off: true } : s)),
    };
    expect(cleanAirLevel(off, { sampleRateHz: 2 })).toBeNull();
  });
});
