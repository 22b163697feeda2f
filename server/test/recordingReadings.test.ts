import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { compileLine, lanesOf, runLine } from '@lucky-needle/core/line';
import type { LineSpec } from '@lucky-needle/core/model';
import { convertedRecording } from '../src/recordings/convertedBlocks.ts';
import { recordingReadings } from '../src/readings/recordingReadings.ts';
import { memoryFromText, memoryToText } from '../src/readings/memoryText.ts';
import { stageOf as stage, storedRun } from './storedRun.ts';

const sources = (...names: string[]) => names.map((column) => ({ column, unit: 'count' as const }));
const channel = (line: LineSpec, slowestHz?: number) => ({ id: 'c', line, slowestHz });

const RATE = 2000;
const N = 1_200_000;
const times = Float64Array.from({ length: N }, (_, i) => i / RATE);
const turn = (i: number, phase: number) => Math.sin((2 * Math.PI * 42 * i) / RATE - phase);
const v = Float64Array.from({ length: N }, (_, i) => Math.round(2048 + 1388 * turn(i, 0)));
const a = Float64Array.from({ length: N }, (_, i) => Math.round(2048 + 500 * turn(i, 0.3)));
// Rows are missing, and numbers are.
const HOLE = [700_000, 700_400] as const;
v[123_456] = Number.NaN;

const AC = stage('ac-power', {
  voltsPerUnit: 1 / 42,
  voltageBias: 2048,
  amperesPerUnit: 1 / 310,
  currentBias: 2048,
  currentDelayUs: 120,
  cycles: 10,
  deadBandV: 2,
});
const volts: LineSpec = { sources: sources('v', 'i'), stages: [AC, stage('pick-column', { column: 1 })] };
const energy: LineSpec = { sources: sources('v', 'i'), stages: [AC, stage('pick-column', { column: 7 })] };
const smooth: LineSpec = {
  sources: sources('v'),
  stages: [
    stage('adc', { bits: 12, referenceV: 3.3, gives: 'volt' }),
    stage('exponential', { timeConstantS: 3 }),
    stage('butterworth-lowpass', { order: 3, cutoffHz: 90 }),
    stage('peak-hold', { holdS: 60, decayS: 30, of: 'value' }),
  ],
};
const sparse: LineSpec = {
  sources: sources('v'),
  stages: [
    stage('adc', { bits: 12, referenceV: 3.3, gives: 'volt' }),
    stage('beat-rate', { over: 3, shortestS: 0.01, memoryS: 2, minHeight: 0.1, to: 'Hz' }),
  ],
};
const LINES = { volts, energy, smooth, sparse };

let run: Awaited<ReturnType<typeof storedRun>>;
let readings: ReturnType<typeof recordingReadings>;
const kept = (column: Float64Array) =>
  Float64Array.from([...column.subarray(0, HOLE[0]), ...column.subarray(HOLE[1])]);
const whole = new Map<string, { times: Float64Array; values: Float64Array }>();

beforeAll(async () => {
  run = await storedRun({ v: kept(v), i: kept(a) }, kept(times), RATE);
  readings = recordingReadings(run.knex);
  for (const [name, line] of Object.entries(LINES)) {
    const columns = line.sources.map((s) => kept(s.column === 'v' ? v : a));
    const [tap] = runLine(compileLine(line, { sampleRateHz: RATE }), lanesOf(kept(times), columns));
    whole.set(name, { times: tap!.times, values: tap!.lanes[0]!.values });
  }
}, 120_000);
afterAll(() => run.database.close());

const inside = (name: string, fromS: number, toS: number) => {
  const { times: t, values } = whole.get(name)!;
  const found: [number, number][] = [];
  for (let i = 0; i < t.length; i++) if (t[i]! >= fromS && t[i]! <= toS) found.push([t[i]!, values[i]!]);
  return found;
};

describe.each(Object.keys(LINES))('readings of a recording, %s', (name) => {
  const line = LINES[name as keyof typeof LINES];

  it('are those of the whole run, to the bit, at any zoom', { timeout: 120_000 }, async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.double({ min: 0, max: 599, noNaN: true }),
        fc.double({ min: -4, max: 2.8, noNaN: true }),
        fc.integer({ min: 2, max: 3000 }),
        async (fromS, exponent, points) => {
          const toS = fromS + 10 ** exponent;
          const look = await readings.look(run.recording, channel(line), { fromS, toS }, points);
          const expected = inside(name, fromS, toS);
          const drawn = Array.from(look.curve.times, (t, i) => [t, look.curve.values[i]!] as const).filter(
            ([, value]) => !Number.isNaN(value),
          );
          const good = expected.filter(([, value]) => !Number.isNaN(value));
          expect(look.summary.good).toBe(good.length);
          expect(look.summary.bad).toBe(expected.length - good.length);
          // Each point that is drawn is a reading of its moment; the lowest and the highest are among them.
          const at = new Map(good);
          for (const [t, value] of drawn) expect(Object.is(at.get(t), value)).toBe(true);
          if (!look.thinned) expect(drawn).toEqual(good);
          if (good.length > 0) {
            expect(look.summary.low).toBe(good.reduce((m, [, x]) => Math.min(m, x), Infinity));
            expect(look.summary.high).toBe(good.reduce((m, [, x]) => Math.max(m, x), -Infinity));
            const low = drawn.reduce((m, [, x]) => Math.min(m, x), Infinity);
            expect(low).toBe(look.summary.low);
          }
        },
      ),
      { numRuns: 25, seed: 11, endOnFailure: true },
    );
  });

  it('are the same under a cursor and in an export', async () => {
    const { times: t, values } = whole.get(name)!;
    for (const i of [5, 40, t.length >> 1, t.length - 9]) {
      if (Number.isNaN(values[i]!)) continue;
      expect((await readings.at(run.recording, channel(line), t[i]!)).value).toBe(values[i]);
    }
    const exported: number[] = [];
    const converted = convertedRecording(run.knex, run.recording, [
      { name, calibration: null, readout: channel(line), start: null },
    ]);
    for await (const { columns } of converted.blocks())
      for (const value of columns.at(-1)!) if (!Number.isNaN(value)) exported.push(value);
    expect(exported).toEqual(Array.from(values).filter((value) => !Number.isNaN(value)));
  });
});

describe('readings of a recording', () => {
  it('of ten minutes of alternating current are 23.37 V at every zoom', async () => {
    for (const stretch of [null, { fromS: 100, toS: 500 }, { fromS: 20, toS: 22 }]) {
      const { summary } = await readings.look(run.recording, channel(volts), stretch, 1200);
      expect(summary.mean).toBeCloseTo(23.37, 1);
      expect(summary.high - summary.low).toBeLessThan(1);
    }
  });

  it('are all drawn where a line reads seldom and they are not too many, however long it was', async () => {
    const all = inside('volts', -Infinity, Infinity).filter(([, value]) => !Number.isNaN(value));
    expect(all.length).toBeGreaterThan(2000);
    const { curve, thinned } = await readings.look(run.recording, channel(volts), null, 5000);
    const drawn = Array.from(curve.times, (t, i) => [t, curve.values[i]!]).filter(
      ([, x]) => !Number.isNaN(x),
    );
    expect(thinned).toBe(false);
    expect(drawn).toEqual(all);
    const few = await readings.look(run.recording, channel(volts), null, 200);
    expect(few.thinned).toBe(true);
    expect(few.curve.times.length).toBeLessThanOrEqual(220);
  });

  it('break where rows are missing, and only there', async () => {
    const { curve } = await readings.look(run.recording, channel(sparse), { fromS: 340, toS: 360 }, 5000);
    const breaks = Array.from(curve.times).filter((_, i) => Number.isNaN(curve.values[i]!));
    expect(breaks).toHaveLength(1);
    expect(breaks[0]).toBeCloseTo((HOLE[0] + HOLE[1]) / 2 / RATE, 1);
  });

  it('sum up by reason, stage by stage', async () => {
    const { tally } = await readings.look(run.recording, channel(smooth), { fromS: 61, toS: 62 }, 100);
    expect(tally).toHaveLength(5);
    expect(tally[0]).toEqual({ length: 2001, bad: { 1: 1 } });
    expect(tally.at(-1)).toEqual({ length: 2001, bad: { 1: 1 } });
  });

  it('are made once: a second look reads no samples, and what was made with another line is made anew', async () => {
    const asked: string[] = [];
    const listen = ({ sql }: { sql: string }) => asked.push(sql);
    await readings.look(run.recording, channel(smooth), null, 1000);
    run.knex.on('query', listen);
    await readings.look(run.recording, channel(smooth), null, 1000);
    expect(asked.some((sql) => /\bchunks\b/.test(sql))).toBe(false);
    const other = { ...smooth, stages: smooth.stages.slice(0, 2) };
    await readings.look(run.recording, channel(other), null, 1000);
    expect(asked.some((sql) => /\bchunks\b/.test(sql))).toBe(true);
    run.knex.off('query', listen);
  });

  it('can be stopped while they are made, and go on from there', async () => {
    await readings.forgetAll();
    let told = 0;
    const stop = readings.look(run.recording, channel(smooth), null, 100, (share) => {
      told = share;
      if (share > 0.5) throw new Error('stopped');
    });
    await expect(stop).rejects.toThrow('stopped');
    expect(told).toBeGreaterThan(0.5);
    const shares: number[] = [];
    await readings.look(run.recording, channel(smooth), null, 100, (share) => shares.push(share));
    expect(shares[0]).toBeGreaterThan(0.4);
    const { summary } = await readings.look(run.recording, channel(smooth), { fromS: 599, toS: 599.1 }, 1000);
    expect(summary.high).toBe(inside('smooth', 599, 599.1).reduce((m, [, x]) => Math.max(m, x), -Infinity));
  });

  it('of several channels are made by one reading of the samples, and are what each is by itself', async () => {
    const lines = Object.values(LINES).map((line) => channel(line));
    const readsOf = async (work: () => Promise<void>) => {
      let reads = 0;
      const listen = ({ sql }: { sql: string }) => void (/\bchunks\b/.test(sql) && reads++);
      run.knex.on('query', listen);
      await work();
      run.knex.off('query', listen);
      return reads;
    };
    await readings.forgetAll();
    const one = await readsOf(() => readings.prepare(run.recording, [lines[0]!]));
    const alone = await Promise.all(lines.map((line) => readings.look(run.recording, line, null, 300)));
    await readings.forgetAll();
    // The same asked for twice, and by two at once, is made once.
    const all = await readsOf(async () => {
      await Promise.all([
        readings.prepare(run.recording, [...lines, lines[1]!]),
        readings.prepare(run.recording, lines.toReversed()),
      ]);
    });
    expect(all).toBe(one);
    const together = await readsOf(async () => {
      for (const [k, line] of lines.entries())
        expect(await readings.look(run.recording, line, null, 300)).toEqual(alone[k]);
    });
    expect(together).toBe(0);
  });

  it('of several channels go on each from where it stands', async () => {
    await readings.forgetAll();
    const [first, second] = [channel(smooth), channel(volts)];
    const stop = readings.prepare(run.recording, [first], (share) => {
      if (share > 0.5) throw new Error('stopped');
    });
    await expect(stop).rejects.toThrow('stopped');
    const shares: number[] = [];
    await readings.prepare(run.recording, [first, second], (share) => shares.push(share));
    expect(shares).toEqual(shares.toSorted((a, b) => a - b));
    expect(shares.at(-1)).toBe(1);
    const looks = await Promise.all(
      [first, second].map((of) => readings.look(run.recording, of, { fromS: 10, toS: 590 }, 500)),
    );
    for (const [k, name] of ['smooth', 'volts'].entries())
      expect(looks[k]!.summary.good).toBe(
        inside(name, 10, 590).filter(([, value]) => !Number.isNaN(value)).length,
      );
  });

  it('of pairs are of the same moments', async () => {
    let n = 0;
    await readings.pairs(run.recording, channel(volts), channel(energy), (_t, first, second) => {
      if (first > 20 && second >= 0) n++;
    });
    expect(n).toBe(Array.from(whole.get('volts')!.values).filter((x) => x > 20).length);
  });
});

describe('readings of a recording that is still made', () => {
  it('are those of all that came so far, and go on with what comes', async () => {
    const column = v.slice(0, 300_000).map((x) => (Number.isNaN(x) ? 2048 : x));
    const first = 200_000;
    const { database, recording, writer } = await storedRun(
      { v: column.subarray(0, first) },
      times.subarray(0, first),
      RATE,
      { state: 'recording' },
    );
    const of = recordingReadings(database.knex);
    const line = channel(smooth);
    const [tap] = runLine(
      compileLine(smooth, { sampleRateHz: RATE }),
      lanesOf(times.subarray(0, column.length), [column]),
    );
    const whole = tap!.lanes[0]!.values;
    const highest = (count: number) => whole.subarray(0, count).reduce((m, x) => Math.max(m, x), -Infinity);
    expect((await of.look(recording, line, null, 500)).summary).toMatchObject({
      good: first,
      high: highest(first),
    });
    const rest = { times: times.subarray(first, column.length), columns: [column.subarray(first)] };
    writer.appendAll(rest, rest.times.length);
    await writer.commit();
    const grown = { ...recording, sampleCount: column.length, lastTimeS: times[column.length - 1]! };
    expect((await of.look(grown, line, null, 500)).summary).toMatchObject({
      good: column.length,
      high: highest(column.length),
    });
    const last = await of.look(grown, line, { fromS: 149.9, toS: 149.99 }, 500);
    const at = Array.from(last.curve.times, (t) => Math.round(t * RATE));
    expect(Array.from(last.curve.values)).toEqual(at.map((i) => whole[i]));
    await database.close();
  });
});

describe('a memory as text', () => {
  it('comes back as it was', () => {
    const memory = {
      a: [Number.NaN, Infinity, -Infinity, 0, -0.1],
      ring: new Float64Array([1, Number.NaN, 3]),
      count: new Int32Array([1, 2]),
      none: null,
      yes: true,
      word: 'x',
      deep: { list: [{ t: 1 }] },
    };
    expect(memoryFromText(memoryToText(memory))).toEqual(memory);
  });
});
