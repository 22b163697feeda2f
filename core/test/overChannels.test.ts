import { describe, expect, it } from 'vitest';
import { compileLine, lineColumns, REASON } from '../src/line/index.ts';
import type { Calibration, Channel, Gadget, LineSpec, StageSpec } from '../src/model/index.ts';
import { feltLine, readoutSpec, wholeLine } from '../src/plan/index.ts';
import { createReadout, createWatchedReadout } from '../src/reading/index.ts';
import { familyGadget } from './support/familyGadget.ts';

const stage = (
  kind: string,
  params: StageSpec['params'],
  uncertainty: StageSpec['uncertainty'] = {},
): StageSpec => ({ id: kind, kind, params, uncertainty, off: false });
const channel = (id: string, unit: 'ppm' | 'degC', ...stages: StageSpec[]): Channel => ({
  id,
  askId: 'a',
  name: `Channel ${id}`,
  line: { sources: [{ column: `${id}_raw`, unit }], stages },
});
const bare = { ...familyGadget(1), brief: null, picks: [], hookup: null };
const gadgetOf = (...channels: Channel[]): Gadget => ({ ...bare, channels, sampleRateHz: 10 });
const NONE: Calibration[] = [];

const LESS = stage('less-others', { channels: 'b c', own: 1.05, weights: [-0.1, -0.02] });
const A = channel('a', 'ppm', stage('gain-offset', { gain: 2, offset: 1 }), LESS);
const B = channel('b', 'ppm', stage('gain-offset', { gain: 3, offset: 0 }));
const C = channel('c', 'ppm', stage('gain-offset', { gain: 0.5, offset: -1 }));

/** What each channel reads of rows, by its id: values and why there is none. */
function read(gadget: Gadget, columns: Record<string, readonly number[]>, line?: LineSpec) {
  const spec = readoutSpec(gadget, NONE, [], gadget.sampleRateHz);
  const readout = createReadout({
    ...spec,
    columns: Object.keys(columns),
    channels: line ? [{ id: 'a', line }] : spec.channels,
  });
  const out: Record<string, { values: number[]; reasons: number[]; stages: number }> = {};
  const n = Object.values(columns)[0]!.length;
  readout.feed(
    {
      length: n,
      times: Float64Array.from({ length: n }, (_, i) => i / 10),
      columns: Object.values(columns).map((c) => Float64Array.from(c)),
    },
    (k, stages) => {
      const { length, lanes } = stages.at(-1)!;
      const of = (out[readout.lines[k]!.id] ??= { values: [], reasons: [], stages: stages.length - 1 });
      of.values.push(...lanes[0]!.values.subarray(0, length));
      of.reasons.push(...lanes[0]!.reasons.subarray(0, length));
    },
  );
  return { out, problems: readout.lines.map((l) => l.problem?.message ?? null) };
}
const COLUMNS = { a_raw: [10, 11, 12], b_raw: [40, 0, NaN], c_raw: [6, 6, 6] };

describe('a stage over channels', () => {
  it('reads what is left without the others, row by row; of a bad neighbour nothing is known', () => {
    const { out, problems } = read(gadgetOf(A, B, C), COLUMNS);
    expect(problems).toEqual([null, null, null]);
    expect(out['a']!.values[0]).toBeCloseTo(1.05 * 21 - 0.1 * 120 - 0.02 * 2, 12);
    expect(out['a']!.values[1]).toBeCloseTo(1.05 * 23 - 0.02 * 2, 12);
    expect(out['a']!.reasons).toEqual([REASON.ok, REASON.ok, REASON.missing]);
    expect(out['a']!.stages).toBe(2);
    // The others read what they feel.
    expect(out['b']!.values.slice(0, 2)).toEqual([120, 0]);
  });

  it('takes of another what it feels, so that all of them can be put right by each other', () => {
    const less = (channels: string) => stage('less-others', { channels, own: 1, weights: [-0.5] });
    const [a, b] = [channel('a', 'ppm', less('b')), channel('b', 'ppm', less('a'))];
    const { out } = read(gadgetOf(a, b), { a_raw: [10], b_raw: [4] });
    expect([out['a']!.values, out['b']!.values]).toEqual([[8], [-1]]);
  });

  it('holds what a slower channel read last, and waits for its first reading', () => {
    const slow = channel('b', 'ppm', stage('decimate', { factor: 4, keep: 'last' }));
    const less = stage('less-others', { channels: 'b', own: 1, weights: [-1] });
    const behind = stage('gain-offset', { gain: 10, offset: 0 });
    const { out } = read(gadgetOf(channel('a', 'ppm', less, behind), slow), {
      a_raw: [100, 100, 100, 100, 100, 100, 100, 100, 100],
      b_raw: [1, 2, 3, 4, 5, 6, 7, 8, 9],
    });
    expect(out['a']!.reasons.slice(0, 3)).toEqual([REASON.waiting, REASON.waiting, REASON.waiting]);
    expect(out['a']!.values.slice(3)).toEqual([960, 960, 960, 960, 920, 920]);
  });

  it('puts a reading right by the warmth around it, and says where that no longer holds', () => {
    const by = stage('by-surroundings', { channels: 'w', share: 0.02, at: 20 });
    const { out } = read(gadgetOf(channel('a', 'ppm', by), channel('w', 'degC')), {
      a_raw: [55, 50, 50],
      w_raw: [25, 20, -30],
    });
    expect(out['a']!.values[0]).toBeCloseTo(50, 12);
    expect(out['a']!.values[1]).toBe(50);
    expect(out['a']!.reasons).toEqual([REASON.ok, REASON.ok, REASON.outOfDomain]);
  });

  it('is refused where it names what is not there or reads something else, and where others are not at hand', () => {
    const whole = (...channels: Channel[]) => wholeLine(gadgetOf(...channels), channels[0]!, NONE);
    const compiled = (line: LineSpec) => () => compileLine(line, { sampleRateHz: 10 });
    expect(compiled(whole(A, B))).toThrow(/uses channel “c”, which does not exist/);
    expect(
      compiled(whole(A, B, { ...C, line: { ...C.line, sources: [{ column: 'c', unit: 'degC' }] } })),
    ).toThrow(
      /needs other channels in its own unit; this channel is in parts per million, the other channels are in/,
    );
    const self = channel('a', 'ppm', stage('less-others', { channels: 'a', own: 1, weights: [-1] }));
    expect(compiled(whole(self))).toThrow(/“a”, which does not exist/);
    const few = channel('a', 'ppm', stage('less-others', { channels: 'b c', own: 1, weights: [-1] }));
    expect(compiled(whole(few, B, C))).toThrow(/received 1 for 2/);
    expect(read(gadgetOf(A, B, C), COLUMNS, A.line).problems).toEqual([
      expect.stringMatching(/not available here/),
    ]);
    expect(read(gadgetOf(A, B, C), { a_raw: [1], c_raw: [1] }, whole(A, B, C)).problems).toEqual([
      expect.stringMatching(/No raw column “b_raw”/),
    ]);
  });

  it('is run on columns of its own and of the others, each once; switched off it is not there', () => {
    const line = wholeLine(gadgetOf(A, B, C), A, NONE);
    expect(lineColumns(line)).toEqual(['a_raw', 'b_raw', 'c_raw']);
    expect(compileLine(line, { sampleRateHz: 10 }).columns.map((c) => c.name)).toEqual(lineColumns(line));
    const off = { ...A, line: { ...A.line, stages: [A.line.stages[0]!, { ...LESS, off: true }] } };
    expect(wholeLine(gadgetOf(off, B, C), off, NONE).beside).toBeUndefined();
    expect(feltLine(line).stages.map((s) => s.kind)).toEqual(['gain-offset']);
  });

  it('goes on from what its channel remembered, with the lines of the others', () => {
    const slow = channel('b', 'ppm', stage('decimate', { factor: 4, keep: 'mean' }));
    const less = stage('less-others', { channels: 'b', own: 1, weights: [-1] });
    const gadget = gadgetOf(channel('a', 'ppm', stage('moving-mean', { width: 3 }), less), slow);
    const spec = { ...readoutSpec(gadget, NONE, [], 10), columns: ['a_raw', 'b_raw'] };
    const rows = (from: number, to: number) => ({
      length: to - from,
      times: Float64Array.from({ length: to - from }, (_, i) => (from + i) / 10),
      columns: [1, 7].map((k) =>
        Float64Array.from({ length: to - from }, (_, i) => Math.sin(k * (from + i))),
      ),
    });
    const readings = (readout: ReturnType<typeof createReadout>, from: number, to: number) => {
      const out: number[] = [];
      readout.feed(rows(from, to), (k, stages) => {
        const { length, lanes } = stages.at(-1)!;
        if (k === 0) out.push(...lanes[0]!.values.subarray(0, length));
      });
      return out;
    };
    const whole = readings(createReadout(spec), 0, 60);
    const first = createReadout(spec);
    const before = readings(first, 0, 31);
    const second = createReadout(spec);
    second.restoreChannel(0, structuredClone(first.saveChannel(0)!));
    expect([...before, ...readings(second, 31, 60)]).toEqual(whole);
    expect(whole.filter(Number.isFinite).length).toBeGreaterThan(50);
  });

  it('is worth what its own constants, the weights and the constants of the others are', () => {
    const uOf = (u: Record<string, number>) => stage('gain-offset', { gain: 1, offset: 0 }, u);
    const less = (u: StageSpec['uncertainty']) =>
      stage('less-others', { channels: 'b', own: 1.1, weights: [-0.4] }, u);
    const worth = (a: StageSpec['uncertainty'], w: StageSpec['uncertainty'], b: StageSpec['uncertainty']) => {
      const gadget = gadgetOf(channel('a', 'ppm', uOf(a), less(w)), channel('b', 'ppm', uOf(b)));
      const readout = createWatchedReadout(readoutSpec(gadget, NONE, [], 10));
      const n = 60;
      readout.feed(
        {
          length: n,
          times: Float64Array.from({ length: n }, (_, i) => i / 10),
          columns: [new Float64Array(n).fill(50), new Float64Array(n).fill(30)],
        },
        () => undefined,
        () => undefined,
      );
      return readout.worth(0)?.systematic ?? null;
    };
    expect(worth({ gain: 0.02 }, {}, { gain: 0 })).toBeCloseTo(1.1 * 50 * 0.02, 6);
    expect(worth({ gain: 0 }, { 'weights.0': 0.05 }, { gain: 0 })).toBeCloseTo(30 * 0.05, 6);
    expect(worth({ gain: 0 }, {}, { gain: 0.1 })).toBeCloseTo(0.4 * 30 * 0.1, 6);
    expect(worth({ gain: 0.02 }, { own: 0.01 }, { offset: 1 })).toBeCloseTo(Math.hypot(1.1, 0.5, 0.4), 6);
    // Of the other nobody says what it is worth: then nobody knows what is left.
    expect(worth({ gain: 0.02 }, { own: 0.01 }, {})).toBeNull();
  });
});
