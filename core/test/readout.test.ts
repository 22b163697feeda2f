import { deserialize, serialize } from 'node:v8';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compileLine, lanesOf, REASON, runLine, type Block } from '../src/line/index.ts';
import type { LineSpec, StageSpec } from '../src/model/line.ts';
import { createReadout, type RawRows, type ReadoutChannel, type ReadoutSpec } from '../src/reading/index.ts';
import { createWorld, FAMILIES } from '../src/simulate/index.ts';
import { TEMPLATES, readoutSpec } from '../src/plan/index.ts';
import { STAGES } from '../src/stages/index.ts';
import { caseName, columnsOf, contextOf, lineOf, samplesOf, STAGE_CASES } from './support/stageCases.ts';

const stage = (kind: string, params: StageSpec['params'] = {}, id = kind): StageSpec => ({
  id,
  kind,
  params,
  uncertainty: {},
  off: false,
});
const of = (unit: LineSpec['sources'][number]['unit'], ...stages: StageSpec[]): LineSpec => ({
  sources: [{ column: 'c1', unit }],
  stages,
});

interface Readings {
  times: number[];
  values: number[][];
  reasons: number[][];
}

const keep = (to: Readings, { length, times, lanes }: Block) => {
  for (let i = 0; i < length; i++) {
    to.times.push(times[i]!);
    to.values.push(lanes.map((l) => l.values[i]!));
    to.reasons.push(lanes.map((l) => l.reasons[i]!));
  }
};
const none = (): Readings => ({ times: [], values: [], reasons: [] });

const rowsOf = (columns: readonly Float64Array[], rateHz: number): RawRows => ({
  length: columns[0]!.length,
  times: Float64Array.from(columns[0]!, (_, i) => i / rateHz),
  columns,
});
const part = ({ times, columns }: RawRows, from: number, to: number): RawRows => ({
  length: to - from,
  times: times.subarray(from, to),
  columns: columns.map((c) => c.subarray(from, to)),
});

/** Feeds rows in pieces of these lengths; at the marked ones everything is saved, written out, and goes on in a new readout. */
function read(
  spec: ReadoutSpec,
  rows: RawRows,
  cuts: readonly { length: number; saved: boolean }[] = [],
): Readings[] {
  let readout = createReadout(spec);
  const out = spec.channels.map(none);
  for (let at = 0, k = 0; at < rows.length; k++) {
    const cut = cuts[k % Math.max(1, cuts.length)] ?? { length: rows.length, saved: false };
    const to = Math.min(rows.length, at + cut.length);
    readout.feed(part(rows, at, to), (channel, stages) => keep(out[channel]!, stages.at(-1)!));
    at = to;
    if (cut.saved) {
      const memory = deserialize(serialize(readout.save())) as ReturnType<typeof readout.save>;
      readout = createReadout(spec);
      readout.restore(memory);
    }
  }
  return out;
}
const readOne = (
  line: LineSpec,
  columns: readonly Float64Array[],
  rateHz: number,
  more: Partial<ReadoutChannel> = {},
) =>
  read(
    {
      columns: line.sources.map((s) => s.column),
      sampleRateHz: rateHz,
      channels: [{ id: 'c', line, ...more }],
    },
    rowsOf(columns, rateHz),
  )[0]!;

describe('every stage', () => {
  it('has a case here', () => {
    const tried = new Set(STAGE_CASES.map((c) => c.kind));
    expect(STAGES.map((s) => s.kind).filter((kind) => !tried.has(kind))).toEqual([]);
  });

  it.each(STAGE_CASES.map((c) => [caseName(c), c] as const))(
    '%s: cut anywhere, saved and put back anywhere, gives the same to the bit',
    (_name, c) => {
      const { sampleRateHz, slowestHz } = contextOf(c, 20);
      const line = lineOf(c);
      const spec = {
        columns: columnsOf(c),
        sampleRateHz,
        channels: [{ id: 'c', line, slowestHz }],
      };
      const rows = rowsOf(samplesOf(c, 700), 20);
      const [whole] = read(spec, rows);
      fc.assert(
        fc.property(
          fc.array(fc.record({ length: fc.integer({ min: 1, max: 200 }), saved: fc.boolean() }), {
            minLength: 1,
          }),
          (cuts) => {
            expect(read(spec, rows, cuts)[0]).toEqual(whole);
          },
        ),
        { numRuns: 12, seed: 7 },
      );
    },
  );
});

describe('a readout', () => {
  const power = stage('ac-power', {
    voltsPerUnit: 1 / 42,
    voltageBias: 2048,
    amperesPerUnit: 1 / 310,
    currentBias: 2048,
    currentDelayUs: 0,
    cycles: 2,
    deadBandV: 2,
  });
  const pair = {
    sources: [
      { column: 'v', unit: 'count' as const },
      { column: 'i', unit: 'count' as const },
    ],
  };
  const spec: ReadoutSpec = {
    columns: ['other', 'v', 'i'],
    sampleRateHz: 500,
    channels: [
      { id: 'V', line: { ...pair, stages: [power, stage('pick-column', { column: 1 })] } },
      {
        id: 'W',
        line: {
          ...pair,
          stages: [power, stage('pick-column', { column: 3 }), stage('moving-mean', { width: 3 })],
        },
      },
      {
        id: 'Wh',
        line: { ...pair, stages: [power, stage('pick-column', { column: 7 })] },
      },
    ],
  };
  const wave = (phase: number) =>
    Float64Array.from({ length: 6000 }, (_, i) => 2048 + 900 * Math.sin(i / 1.7 - phase));
  const rows = rowsOf([new Float64Array(6000), wave(0), wave(0.5)], 500);

  it('runs what channels share once, and gives each what its line gives by itself', () => {
    const shared = read(spec, rows);
    spec.channels.forEach(({ line: whole }, k) => {
      const [tap] = runLine(
        compileLine(whole, { sampleRateHz: 500 }),
        lanesOf(rows.times, [rows.columns[1]!, rows.columns[2]!]),
      );
      expect(shared[k]!.values.map((v) => v[0])).toEqual(Array.from(tap!.lanes[0]!.values));
    });
    expect(shared[2]!.values.at(-1)![0]).toBeGreaterThan(0);
  });

  it('measures the power of forty samples a turn to two millionths', () => {
    const ten = stage('ac-power', { ...power.params, voltageBias: 0, currentBias: 0, cycles: 10 });
    const line = { ...pair, stages: [ten, stage('pick-column', { column: 3 })] };
    const turn = (2 * Math.PI) / 40.37;
    const columns = [420, 3100].map((size) =>
      Float64Array.from({ length: 2000 }, (_, i) => size * Math.sin(turn * i)),
    );
    const { values } = readOne(line, columns, 2000);
    const good = values.map((v) => v[0]!).filter(Number.isFinite);
    expect(good.length).toBeGreaterThan(2);
    for (const watts of good) expect(Math.abs(watts / 50 - 1)).toBeLessThan(2e-6);
  });

  it('goes on with one channel alone from where all of them stood', () => {
    const readout = createReadout(spec);
    const seen = spec.channels.map(none);
    readout.feed(part(rows, 0, 2500), () => undefined);
    const memories = spec.channels.map((_, k) => structuredClone(readout.saveChannel(k)!));
    readout.feed(part(rows, 2500, 6000), (k, stages) => keep(seen[k]!, stages.at(-1)!));
    spec.channels.forEach((channel, k) => {
      const line = readout.lines[k]!.line!.spec;
      const alone = createReadout({ ...spec, channels: [{ ...channel, line }] });
      alone.restoreChannel(0, memories[k]!);
      const own = none();
      alone.feed(part(rows, 2500, 6000), (_c, stages) => keep(own, stages.at(-1)!));
      expect(own).toEqual(seen[k]);
    });
    expect(() => readout.restoreChannel(0, { stages: [] })).toThrow(/has 0 stages, but this channel has 2/);
  });

  it('says why a channel cannot run, and runs the others', () => {
    const broken: ReadoutSpec = {
      ...spec,
      channels: [...spec.channels, { id: 'lost', line: of('count', stage('moving-mean', { width: 3 })) }],
    };
    const readout = createReadout(broken);
    expect(readout.lines.map((l) => l.problem?.message ?? null)).toEqual([
      null,
      null,
      null,
      expect.stringMatching(/No raw column “c1”\. Available columns: other, v, i/),
    ]);
    expect(read(broken, rows)[0]).toEqual(read(spec, rows)[0]);
  });

  it('holds readings back while the sensor warms up, and lets filters see them', () => {
    const line = of('V', stage('moving-mean', { width: 4 }));
    const column = Float64Array.from({ length: 100 }, (_, i) => i);
    const [cold, warm] = [readOne(line, [column], 10, { warmUpS: 3 }), readOne(line, [column], 10)];
    expect(cold.reasons.slice(0, 30).every(([r]) => r === REASON.warmingUp)).toBe(true);
    expect(cold.values.slice(0, 30).every(([v]) => Number.isNaN(v))).toBe(true);
    expect(cold.values.slice(30)).toEqual(warm.values.slice(30));
  });

  it('a column that stands still, or is missing, takes no other with it', () => {
    const still = {
      ...rows,
      columns: [rows.columns[0]!, rows.columns[1]!, new Float64Array(6000).fill(2048)],
    };
    const gone = {
      ...rows,
      columns: [rows.columns[0]!, rows.columns[1]!, new Float64Array(6000).fill(Number.NaN)],
    };
    const volts = read(spec, rows)[0]!.values;
    expect(read(spec, still)[0]!.values).toEqual(volts);
    expect(read(spec, gone)[0]!.values).toEqual(volts);
    expect(read(spec, still)[1]!.values.every(([w]) => w === 0)).toBe(true);
    expect(read(spec, gone)[1]!.values.every(([w]) => Number.isNaN(w))).toBe(true);
    const after = of('V', stage('warm-up', { warmUpS: 1 }), stage('pick-column', { column: 1 }));
    const two = { ...after, sources: [...after.sources, { column: 'c2', unit: 'A' as const }] };
    const half = readOne(two, [new Float64Array(40).fill(5), new Float64Array(40).fill(Number.NaN)], 10);
    expect(half.values.at(-1)).toEqual([5]);
  });
});

describe('over minutes', () => {
  it('a warm-up of five minutes ends at a hundred readings a second', () => {
    const readings = readOne(
      of('V', stage('warm-up', { warmUpS: 300 })),
      [new Float64Array(31_000).fill(2)],
      100,
    );
    expect(readings.values.findIndex(([v]) => v === 2)).toBe(30_000);
  });

  it('one watt for ten minutes is 599.99 joules, and a peak that is held for good stays', () => {
    const watt = new Float64Array(60_000).fill(1);
    expect(readOne(of('W', stage('integrate', { leakS: 0 })), [watt], 100).values.at(-1)![0]).toBeCloseTo(
      599.99,
      6,
    );
    const peak = Float64Array.from({ length: 12_000 }, (_, i) => (i === 5 ? 7 : 1));
    const held = stage('peak-hold', { holdS: 1e6, decayS: 0, of: 'value' });
    expect(readOne(of('N', held), [peak], 100).values.at(-1)![0]).toBe(7);
  });
});

describe('rates that stop', () => {
  const template = (id: string) => {
    const made = TEMPLATES.find((t) => t.id === id)!.make();
    return { ...made, id, template: id, version: 1, createdAt: '', updatedAt: '', name: id } as never;
  };
  const simulated = (
    templateId: string,
    family: number,
    acts: readonly (readonly [condition: string, seconds: number])[],
  ) => {
    const gadget = template(templateId);
    const { sampleRateHz } = gadget as { sampleRateHz: number };
    const world = createWorld(FAMILIES.find((f) => f.family === family)!.draw(3));
    const spec = readoutSpec(gadget, [], [], sampleRateHz);
    const columns: number[][] = spec.columns.map(() => []);
    for (const [condition, seconds] of acts) {
      world.setCondition(condition);
      for (let i = 0; i < seconds * sampleRateHz; i++) {
        const row = world.step(1 / sampleRateHz);
        spec.columns.forEach((name, k) => columns[k]!.push(row[world.columns.indexOf(name)]!));
      }
    }
    const [readings] = read(
      spec,
      rowsOf(
        columns.map((c) => Float64Array.from(c)),
        sampleRateHz,
      ),
    );
    return {
      times: readings!.times,
      values: readings!.values.map((v) => v[0]!),
      reasons: readings!.reasons.map((r) => r[0]!),
    };
  };

  it('the spindle stands at 0 from power-up and after its run-down, without a fault', () => {
    const { times, values, reasons } = simulated('rotation', 10, [
      ['stopped', 40],
      ['running', 60],
      ['run-down', 200],
    ]);
    expect(reasons.every((r) => r === REASON.ok)).toBe(true);
    const at = (s: number) => values[times.findIndex((t) => t >= s) - 1];
    expect(at(39)).toBe(0);
    expect(at(99)).toBeGreaterThan(100);
    expect(values.at(-1)).toBe(0);
  });

  it('while no edge comes, it reads no more than the time since the last one allows', () => {
    const edges = (i: number) => Math.min(i, 50);
    const line = of(
      'us',
      stage('period-rate', { marks: 1, over: 'one edge', deadTimeS: 0, from: 'us', to: 'rpm' }),
    );
    const column = Float64Array.from({ length: 400 }, (_, i) => edges(i) * 1e5);
    const { times, values } = readOne(line, [column], 10, { slowestHz: 0.1 });
    const at = (s: number) => values[times.findLastIndex((t) => t <= s)]![0];
    expect(at(5)).toBeCloseTo(600, 9);
    expect(at(9)).toBeCloseTo(60 / 4, 9);
    expect(at(22)).toBe(0);
    expect(readOne(line, [column], 10).values.at(-1)![0]).toBeCloseTo(600, 9);
  });

  it('a clock that stops is told within seconds', () => {
    const line = of(
      'V',
      stage('beat-rate', { over: 20, shortestS: 0.4, memoryS: 4, minHeight: 0.1, to: 'perMin' }),
    );
    const light = Float64Array.from({ length: 9000 }, (_, i) =>
      i < 6000 ? Math.sin((2 * Math.PI * i) / 100) : 0,
    );
    const { times, values } = readOne(line, [light], 100, { slowestHz: 20 / 60 });
    expect(values[times.findLastIndex((t) => t < 60)]![0]).toBeCloseTo(60, 6);
    expect(times.find((t, i) => t > 30 && values[i]![0] === 0)).toBeLessThan(65);
  });

  it('a generator that stands still gives no volts and no hertz, not a fault', () => {
    const { values, reasons, times } = simulated('ac-power', 4, [['stopped', 8]]);
    const late = values.filter((_, i) => times[i]! > 6);
    expect(late.length).toBeGreaterThan(2);
    expect(late.every((v) => v >= 0 && v < 0.3)).toBe(true);
    expect(reasons.filter((_, i) => times[i]! > 6).every((r) => r === REASON.ok)).toBe(true);
  });
});

describe('edges faster than rows', () => {
  it('are counted, where the count stands beside the time', () => {
    const line: LineSpec = {
      sources: [
        { column: 'n', unit: 'count' },
        { column: 't', unit: 'us' },
      ],
      stages: [stage('period-rate', { marks: 4, over: 'one turn', deadTimeS: 0.001, from: 'us', to: 'rpm' })],
    };
    // 1500 turns a minute with four marks: a hundred edges a second, of which fifty rows show every other one.
    const count = Float64Array.from({ length: 500 }, (_, i) => 2 * i);
    const stamp = count.map((n) => n * 1e4);
    expect(readOne(line, [count, stamp], 50).values.at(-1)![0]).toBeCloseTo(1500, 6);
  });

  it('and an edge with its bounce is one', () => {
    const line: LineSpec = {
      sources: [
        { column: 'n', unit: 'count' },
        { column: 't', unit: 'us' },
      ],
      stages: [stage('period-rate', { marks: 1, over: 'one edge', deadTimeS: 0.001, from: 'us', to: 'rpm' })],
    };
    // An edge every ten rows; each third one bounces within its row.
    const edge = (i: number) => Math.floor(i / 10);
    const count = Float64Array.from({ length: 500 }, (_, i) => edge(i) + Math.floor(edge(i) / 3));
    const stamp = Float64Array.from({ length: 500 }, (_, i) => edge(i) * 2e5);
    const { values } = readOne(line, [count, stamp], 50);
    expect(values.length).toBeGreaterThan(40);
    expect(values.every(([v]) => Math.abs(v! - 300) < 1e-6)).toBe(true);
  });
});

describe('a readout of which only readings are looked at', () => {
  it('gives them to the bit, and says of every stage how many came and which are bad', () => {
    // Codes at the rails are no voltage that a divider can tell from, and one is no code at all.
    const code = fc.oneof(
      { weight: 40, arbitrary: fc.integer({ min: 1, max: 254 }) },
      { weight: 1, arbitrary: fc.constantFrom(0, 255) },
    );
    const noCode = fc.option(fc.constantFrom(Number.NaN, 12.5, 300), { freq: 3 });
    const line = of(
      'count',
      stage('adc', { bits: 8, referenceV: 3.3, gives: 'ratio' }),
      stage('divider', { seriesOhm: 10_000, side: 'top' }),
      stage('thermistor-beta', { betaK: 3950, r0Ohm: 10_000, t0C: 25 }),
      stage('exponential', { timeConstantS: 0.05 }),
    );
    const spec = { columns: ['c1'], sampleRateHz: 100, channels: [{ id: 'a', line }] };
    const seen = (rows: RawRows, readingsOnly: boolean) => {
      const stages: Readings[] = [];
      const readout = createReadout({ ...spec, readingsOnly });
      for (let at = 0; at < rows.length; at += 100)
        readout.feed(part(rows, at, Math.min(rows.length, at + 100)), (_, blocks) =>
          blocks.forEach((block, k) => keep((stages[k] ??= none()), block)),
        );
      return stages;
    };
    fc.assert(
      fc.property(fc.array(code, { minLength: 200, maxLength: 900 }), noCode, (codes, other) => {
        const rows = rowsOf([Float64Array.from(other === null ? codes : [other, ...codes])], 100);
        const [all, only] = [seen(rows, false), seen(rows, true)];
        expect(all).toHaveLength(5);
        expect(only.at(-1)).toEqual(all.at(-1));
        for (const [k, { times, reasons }] of all.entries())
          expect(only[k]).toMatchObject({ times, reasons });
      }),
      { numRuns: 40 },
    );
  });
});
