import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  lineFromJson,
  lineToJson,
  BLOCK_SAMPLES,
  compileLine,
  editLine,
  invertLine,
  LineError,
  readingAtRest,
  REASON,
  runLine,
  singleLane,
  slopeAtRest,
  stageKind,
  stagesThatFit,
  valuesAtRest,
} from '../src/line/index.ts';
import type { LineSpec, StageSpec } from '../src/model/line.ts';
import { thermistorLine } from '../src/plan/index.ts';
import { STAGES } from '../src/stages/index.ts';

const CONTEXT = { sampleRateHz: 10 };
const line = () => thermistorLine('p');
const stage = (kind: string, params: StageSpec['params'], id = kind): StageSpec => ({
  id,
  kind,
  params,
  uncertainty: {},
  off: false,
});
const withParams = (id: string, params: StageSpec['params']): LineSpec => ({
  ...line(),
  stages: line().stages.map((s) => (s.id === id ? { ...s, params: { ...s.params, ...params } } : s)),
});

/** Runs values through in pieces of the given lengths. */
function runInPieces(
  spec: LineSpec,
  values: Float64Array,
  pieces: readonly number[],
): { values: number[]; reasons: number[] } {
  const run = compileLine(spec, CONTEXT).start();
  const out: number[] = [];
  const reasons: number[] = [];
  let at = 0;
  for (let i = 0; at < values.length; i++) {
    const length = Math.min(values.length - at, Math.max(1, pieces[i % pieces.length] ?? 1));
    const piece = values.slice(at, at + length);
    run.process(
      singleLane(
        Float64Array.from(piece, (_, k) => (at + k) / 10),
        piece,
      ),
      (blocks) => {
        const last = blocks.at(-1)!;
        out.push(...last.lanes[0]!.values.subarray(0, last.length));
        reasons.push(...last.lanes[0]!.reasons.subarray(0, last.length));
      },
    );
    at += length;
  }
  return { values: out, reasons };
}

describe('compileLine', () => {
  it('names the stages’ units from raw counts to degrees', () => {
    const compiled = compileLine(line(), CONTEXT);
    expect(compiled.stages.map((s) => s.outputs[0]!.unit)).toEqual(['1', 'ohm', 'degC', 'degC', 'degC']);
  });

  it('refuses a stage that is given the wrong unit, and says what to do', () => {
    const wrong = { ...line(), stages: line().stages.slice(1) };
    expect(() => compileLine(wrong, CONTEXT)).toThrow(
      /Voltage divider needs ratio, but its input is raw counts.*before it/,
    );
  });

  it.each<[string, LineSpec, RegExp]>([
    [
      'out of its limits',
      withParams('divider', { seriesOhm: -5 }),
      /Voltage divider, Series resistor: enter a number above 0 and up to 1000000000, in Ω; received -5/,
    ],
    ['no number', withParams('divider', { seriesOhm: 'big' }), /enter a number; received "big"/],
    ['not finite', withParams('divider', { seriesOhm: Number.NaN }), /received NaN/],
    ['incomplete', withParams('adc', { bits: 10.5 }), /ADC, Bits: enter a whole number/],
    ['not a choice', withParams('divider', { side: 'left' }), /choose “supply” or “ground”; received "left"/],
    ['unknown', withParams('divider', { wires: 3 }), /Voltage divider has no parameter “wires”/],
    ['zero gain', withParams('correction', { gain: 0 }), /enter a gain other than 0/],
  ])('refuses a parameter that is %s', (_what, spec, message) => {
    expect(() => compileLine(spec, CONTEXT)).toThrow(LineError);
    expect(() => compileLine(spec, CONTEXT)).toThrow(message);
  });

  it('refuses a missing parameter, an unknown stage and a rate of nothing', () => {
    const { seriesOhm: _gone, ...rest } = line().stages[1]!.params;
    const missing = {
      ...line(),
      stages: line().stages.map((s) => (s.id === 'divider' ? { ...s, params: rest } : s)),
    };
    expect(() => compileLine(missing, CONTEXT)).toThrow(/Voltage divider, Series resistor: enter a number/);
    expect(() => compileLine({ ...line(), stages: [stage('magic', {})] }, CONTEXT)).toThrow(
      /no stage of type “magic”/,
    );
    expect(() => compileLine(line(), { sampleRateHz: 0 })).toThrow(/above 0 Hz; received 0/);
  });

  it('lets a stage be switched off only where the units stay the same', () => {
    const off = (id: string) => ({
      ...line(),
      stages: line().stages.map((s) => (s.id === id ? { ...s, off: true } : s)),
    });
    expect(compileLine(off('smoothing'), CONTEXT).stages).toHaveLength(4);
    expect(() => compileLine(off('divider'), CONTEXT)).toThrow(/Voltage divider cannot be turned off/);
  });

  it('offers only stages that fit the units at hand', () => {
    expect(stagesThatFit(['count']).map((s) => s.kind)).toContain('adc');
    expect(stagesThatFit(['1']).map((s) => s.kind)).not.toContain('adc');
    expect(stagesThatFit(['ohm']).map((s) => s.kind)).toEqual(
      expect.arrayContaining(['thermistor-beta', 'steinhart-hart', 'exponential']),
    );
  });
});

describe('running a line', () => {
  it('gives bit-identical output however the samples are cut', () => {
    const spec = {
      ...line(),
      stages: [
        ...line().stages,
        stage('moving-mean', { width: 7 }),
        stage('butterworth-lowpass', { order: 3, cutoffHz: 0.8 }),
      ],
    };
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -2, max: 1025 }), { minLength: 1, maxLength: 400 }),
        fc.array(fc.integer({ min: 1, max: 60 }), { minLength: 1, maxLength: 8 }),
        (counts, pieces) => {
          const values = Float64Array.from(counts);
          const whole = runInPieces(spec, values, [values.length]);
          const cut = runInPieces(spec, values, pieces);
          expect(cut.values.every((v, i) => Object.is(v, whole.values[i]))).toBe(true);
          expect(cut.reasons).toEqual(whole.reasons);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('cuts long recordings into blocks without a seam', () => {
    const n = 2 * BLOCK_SAMPLES + 37;
    const values = Float64Array.from({ length: n }, (_, i) => 500 + 100 * Math.sin(i / 50));
    const times = Float64Array.from(values, (_, i) => i / 10);
    const whole = runLine(compileLine(line(), CONTEXT), singleLane(times, values))[0]!.lanes[0]!.values;
    const cut = runInPieces(line(), values, [1000]);
    expect(Array.from(whole)).toEqual(cut.values);
  });

  it('turns saturated and missing readings into NaN with the reason, and goes on', () => {
    const values = Float64Array.from([500, 0, 1023, Number.NaN, 501]);
    const out = runInPieces(line(), values, [5]);
    expect(out.reasons).toEqual([
      REASON.ok,
      REASON.saturatedLow,
      REASON.saturatedHigh,
      REASON.missing,
      REASON.ok,
    ]);
    expect(out.values.map(Number.isNaN)).toEqual([false, true, true, true, false]);
    // The bad readings leave no trace in the filter.
    const clean = runInPieces(line(), Float64Array.from([500, 501]), [2]);
    expect(out.values[4]).toBe(clean.values[1]);
  });

  it('keeps the columns that are asked for', () => {
    const compiled = compileLine(line(), CONTEXT);
    const taps = runLine(compiled, singleLane(Float64Array.from([0]), Float64Array.from([512])), [0, 2, 5]);
    expect(taps.map((tap) => tap.lanes[0]!.values[0])).toEqual([
      512,
      valuesAtRest(compiled, 512)[2],
      readingAtRest(compiled, 512),
    ]);
  });

  it('gives nothing for nothing', () => {
    const out = runLine(compileLine(line(), CONTEXT), singleLane(new Float64Array(0), new Float64Array(0)));
    expect(out[0]!.lanes[0]!.values).toHaveLength(0);
  });
});

describe('walking back', () => {
  it('inverts every reading within the range', () => {
    const compiled = compileLine(withParams('correction', { gain: 1.02, offset: -0.4 }), CONTEXT);
    for (const celsius of [-20, 0, 25, 60, 97.8, 120]) {
      expect(readingAtRest(compiled, invertLine(compiled, celsius)[0]!)).toBeCloseTo(celsius, 9);
    }
  });

  it('agrees with the derivatives that the stages state', () => {
    const compiled = compileLine(line(), CONTEXT);
    for (const raw of [120, 400, 800, 1000]) {
      const h = 1e-3;
      const numeric = (readingAtRest(compiled, raw + h) - readingAtRest(compiled, raw - h)) / (2 * h);
      expect(Math.abs(slopeAtRest(compiled, raw) / numeric - 1)).toBeLessThan(1e-6);
    }
  });

  it.each(STAGES.filter((s) => s.scalar).map((s) => [s.kind, s] as const))(
    '%s comes back from its inverse',
    (_kind, s) => {
      const map = s.scalar!(s.defaults);
      for (const x of [0.02, 0.3, 0.9, 15, 700]) {
        const y = map.forward(x);
        if (Number.isFinite(y)) expect(map.inverse!(y) / x).toBeCloseTo(1, 9);
      }
    },
  );
});

describe('editLine', () => {
  it('sets constants and replaces stages without touching the original', () => {
    const before = line();
    const after = editLine(before, [
      { stageId: 'divider', params: { seriesOhm: 3432 } },
      { stageId: 'thermistor', kind: 'steinhart-hart', params: { a: 1e-3, b: 2e-4, c: 1e-7 } },
    ]);
    expect(after.stages.map((s) => s.kind)).toEqual([
      'adc',
      'divider',
      'steinhart-hart',
      'gain-offset',
      'exponential',
    ]);
    expect(after.stages[1]!.params).toEqual({ seriesOhm: 3432, side: 'top' });
    expect(before).toEqual(line());
  });

  it('refuses an edit of a stage that is gone', () => {
    expect(() => editLine(line(), [{ stageId: 'filter-9', params: {} }])).toThrow(
      /“filter-9”.*no longer in the line/,
    );
  });

  it('knows every stage kind it can be asked for', () => {
    for (const s of STAGES) expect(stageKind(s.kind)).toBe(s);
  });
});

describe('a line as a file', () => {
  const line = thermistorLine('p1');
  it('comes back as it went, on the columns of the present one', () => {
    expect(lineFromJson(lineToJson(line), line, 10)).toEqual(line);
    expect(lineFromJson(lineToJson(thermistorLine('other')), line, 10)).toEqual(line);
  });
  it.each<[string, RegExp]>([
    ['{', /This is not valid JSON/],
    ['[]', /must contain “signal line” as “form” and the line under “line”/],
    ['{"form":"signal line","line":{"sources":[]}}', /incomplete/],
    [lineToJson({ ...line, stages: [{ ...line.stages[0]!, kind: 'oracle' }] }), /unknown stage “oracle”/],
    [
      lineToJson({ sources: [{ column: 'x', unit: 'V' }], stages: [] }),
      /needs V, but this channel has count/,
    ],
    [
      lineToJson({ ...line, stages: line.stages.slice(1) }),
      /does not work here: Voltage divider needs ratio/,
    ],
  ])('names what is wrong with %s', (text, message) => {
    expect(lineFromJson(text, line, 10)).toMatch(message);
  });
});
