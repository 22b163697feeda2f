import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { decodeSampleBlock } from '@lucky-needle/core/formats';
import type {
  DiskState,
  Gadget,
  LogEntry,
  Problem,
  Recording,
  RecordingFigures,
  RecordingReadings,
  ShapeAnswer,
  StepsAnswer,
} from '@lucky-needle/core/model';
import { seededRandom } from '@lucky-needle/core/numerics';
import { tables } from '../src/db/tables.ts';
import { recordingWindow } from '../src/recordings/window.ts';
import { openBench, recordingOf, until, type TestBench } from './bench.ts';
import { storedRun } from './storedRun.ts';

let bench: TestBench;
let gadget: Gadget;
beforeAll(async () => {
  bench = await openBench();
  gadget = await bench.linkedGadget();
});
afterAll(() => bench.close());

const csv = (n: number, of: (i: number) => number, t0 = 0) =>
  `time [s],p1 raw [count]\n${Array.from({ length: n }, (_, i) => `${(t0 + i / 10).toFixed(1)},${of(i)}`).join('\n')}\n`;
async function bring(name: string, n = 1000, of = (i: number) => i, t0 = 0): Promise<Recording> {
  const { body } = await bench.call<Recording>(
    'POST',
    `/api/gadgets/${gadget.id}/recordings/import?name=${name}`,
    csv(n, of, t0),
    { 'Content-Type': 'text/csv' },
  );
  return body;
}
const samplesOf = async (id: string, query = '') =>
  decodeSampleBlock(
    await (await fetch(`${bench.server.url}/api/recordings/${id}/window${query}`)).arrayBuffer(),
  );
const act = <T = Recording>(id: string, what: string, body: object = {}) =>
  bench.call<T & Problem>('POST', `/api/recordings/${id}/${what}`, body);
const names = async () =>
  (await bench.call<{ items: Recording[] }>('GET', `/api/gadgets/${gadget.id}/recordings`)).body.items.map(
    (r) => r.name,
  );

describe('cutting', () => {
  it('keeps a stretch, cuts that again, and brings all of it back', async () => {
    const run = await bring('long');
    const cut = await act(run.id, 'trim', { keep: { fromS: 20, toS: 30 } });
    expect(cut.body).toMatchObject({ sampleCount: 101, firstTimeS: 20, lastTimeS: 30 });
    expect([...(await samplesOf(run.id)).columns[0]!]).toEqual(
      Array.from({ length: 101 }, (_, i) => 200 + i),
    );
    const again = await act(run.id, 'trim', { keep: { fromS: 0, toS: 21 } });
    expect(again.body).toMatchObject({ sampleCount: 11, firstTimeS: 20, lastTimeS: 21 });
    expect((await act(run.id, 'trim', { keep: null })).body).toMatchObject({
      sampleCount: 1000,
      pieces: null,
    });
    expect((await samplesOf(run.id)).times).toHaveLength(1000);
  });

  it('splits at a moment: no reading is lost, none is twice', async () => {
    const run = await bring('two halves');
    const { body } = await act<{ items: Recording[] }>(run.id, 'split', { atS: 40 });
    const [first, second] = body.items as [Recording, Recording];
    expect([first.sampleCount, second.sampleCount]).toEqual([400, 600]);
    expect(second).toMatchObject({ firstTimeS: 40, name: 'two halves, part 2' });
    expect(Date.parse(second.startedAt) - Date.parse(first.startedAt)).toBe(40_000);
    const all = [first, second].map((r) => samplesOf(r.id));
    expect((await Promise.all(all)).flatMap((s) => [...s.columns[0]!])).toEqual(
      Array.from({ length: 1000 }, (_, i) => i),
    );
    // The part that owns nothing cannot be made whole, and goes out to a file like any other.
    expect(await act(second.id, 'trim', { keep: null })).toMatchObject({ status: 422 });
    const file = await bench.call<string>('GET', `/api/recordings/${second.id}/export/csv`);
    expect(file.body.trim().split('\r\n')).toHaveLength(601);
    expect(file.body.split('\r\n')[1]).toMatch(/^40,400/);
  });

  it('reads the same at the same moment in a stretch as in the whole, whatever its filters remember', async () => {
    const [p1] = gadget.channels;
    const slow = {
      id: 'slow',
      kind: 'exponential',
      uncertainty: {},
      off: false,
      params: { timeConstantS: 8 },
    };
    const thin = {
      id: 'thin',
      kind: 'decimate',
      uncertainty: {},
      off: false,
      params: { factor: 7, keep: 'mean' },
    };
    const mean = {
      id: 'mean',
      name: 'Mean',
      kind: 'mean',
      watches: {},
      others: [],
      params: { windowS: 0 },
      askId: null,
    };
    const made = (await bench.call<Gadget>('GET', `/api/gadgets/${gadget.id}`)).body;
    const lineOf = (stages: object[]) => ({
      ...p1!,
      line: { ...p1!.line, stages: [...p1!.line.stages, ...stages] },
    });
    const patch = async (channel: object, version: number) =>
      (
        await bench.call<Gadget>(
          'PATCH',
          `/api/gadgets/${gadget.id}`,
          { channels: [channel, ...made.channels.slice(1)] },
          { 'If-Match': `"${version}"` },
        )
      ).body;
    const changed = await patch({ ...lineOf([slow, thin]), figures: [mean] }, made.version);
    expect(changed.channels[0]!.line.stages.at(-1)!.id).toBe('thin');
    try {
      const random = seededRandom(3);
      const run = await bring('remembers', 1000, () => Math.round(500 + 100 * random.normal()));
      const readings = async (id: string) => {
        const { times, values } = (
          await bench.call<RecordingReadings>('GET', `/api/recordings/${id}/readings?channel=p1&points=5000`)
        ).body;
        return new Map(times.map((t, k) => [t, values[k]]));
      };
      const whole = await readings(run.id);
      const { body } = await act<{ items: Recording[] }>(run.id, 'split', { atS: 40.3 });
      const second = await readings(body.items[1]!.id);
      expect(second.size).toBeGreaterThan(80);
      for (const [t, value] of second) expect([t, value]).toEqual([t, whole.get(t)]);
      // The export, and what is counted, go on in the same way.
      const csv = await bench.call<string>('GET', `/api/recordings/${body.items[1]!.id}/export/csv`);
      const rows = csv.body
        .trim()
        .split('\r\n')
        .map((r) => r.split(','));
      const at = rows[0]!.findIndex((name) => name.startsWith('Probe 1'));
      const exported = rows
        .slice(1)
        .filter((r) => r[at] !== '')
        .map((r) => [Number(r[0]), Number(r[at])] as const);
      expect(exported.length).toBe(second.size);
      for (const [t, value] of exported) expect(Math.abs(value - whole.get(t)!)).toBeLessThan(1e-9);
      const { figures } = (
        await bench.call<RecordingFigures>('GET', `/api/recordings/${body.items[1]!.id}/figures`)
      ).body.channels[0]!;
      const values = [...second.values()].map((v) => v!);
      expect(figures[0]!.value).toBeCloseTo(values.reduce((a, b) => a + b, 0) / values.length, 3);
    } finally {
      await patch(p1!, changed.version);
    }
  });

  it('dates the second part by the clock on the wall, also of a gadget that ran faster, and of no part in the future', async () => {
    const run = await bring('twenty times as fast');
    const { recordings } = tables(bench.server.knex);
    await recordings.update({
      ...run,
      sourceChecksum: null,
      startedAt: '2026-03-01T10:00:00.000Z',
      endedAt: '2026-03-01T10:00:05.000Z',
    });
    const { body } = await act<{ items: Recording[] }>(run.id, 'split', { atS: 60 });
    const second = body.items[1]!;
    expect(Date.parse(second.startedAt) - Date.parse('2026-03-01T10:00:00.000Z')).toBeCloseTo(
      (5000 * 60) / 99.9,
      -1,
    );
    // A part of a part is never begun after it has ended.
    const again = await act<{ items: Recording[] }>(second.id, 'split', { atS: 95 });
    expect(Date.parse(again.body.items[1]!.startedAt)).toBeLessThanOrEqual(
      Date.parse('2026-03-01T10:00:05.000Z'),
    );
  });

  it('says between which moments a run lies when a mark lies outside, and keeps none', async () => {
    const run = await bring('marked');
    const { status, body } = await act(run.id, 'markers', { timeS: 599_940.1, text: 'door' });
    expect([status, body.detail]).toEqual([422, 'The run goes from 0 to 99.9 s; 599940.1 s is outside.']);
    expect((await recordingOf(bench, run.id)).markers).toEqual([]);
  });

  it('joins runs in their order, with the time between them, and never back over itself', async () => {
    const later = await bring('b', 100, (i) => 1000 + i);
    const first = await bring('a', 100, (i) => i);
    const database = tables(bench.server.knex);
    const set = async (r: Recording, startedAt: string) => database.recordings.update({ ...r, startedAt });
    await set(first, '2026-11-01T10:00:00.000Z');
    await set(later, '2026-11-01T10:01:00.000Z');
    const join = (ids: string[], name = 'both') =>
      bench.call<Recording & Problem>('POST', `/api/gadgets/${gadget.id}/recordings/join`, { name, ids });
    const both = (await join([later.id, first.id])).body;
    expect(both).toMatchObject({ sampleCount: 200, firstTimeS: 0, lastTimeS: 69.9, name: 'both' });
    const { times, columns } = await samplesOf(both.id);
    expect(times[100]).toBeCloseTo(60, 9);
    expect([columns[0]![99], columns[0]![100]]).toEqual([99, 1000]);
    // The same run begun before the other had ended: it follows straight on.
    await set(later, '2026-11-01T10:00:05.000Z');
    const close = (await join([first.id, later.id], 'close')).body;
    const { times: t } = await samplesOf(close.id);
    expect(t.every((v, i) => i === 0 || v > t[i - 1]!)).toBe(true);
    expect(close.lastTimeS).toBeCloseTo(19.9, 6);
    expect((await join([first.id, first.id])).status).toBe(422);
    const twice = await join([both.id, first.id], 'of a joined one');
    expect(twice.body.sampleCount).toBe(300);
  });

  it.each<[string, string, object, RegExp]>([
    [
      'a stretch upside down',
      'trim',
      { keep: { fromS: 5, toS: 4 } },
      /must end after it starts; received 5 to 4/,
    ],
    ['a stretch of nothing', 'trim', { keep: { fromS: 500, toS: 600 } }, /This section has no readings/],
    ['a moment outside', 'split', { atS: 100 }, /goes from 0 to 99.9 s; 100 s is outside/],
    ['its very begin', 'split', { atS: 0 }, /0 s is outside/],
  ])('%s is refused', async (_, what, body, told) => {
    const run = await bring('whole');
    const answer = await act(run.id, what, body);
    expect(answer).toMatchObject({ status: 422, body: { detail: expect.stringMatching(told) } });
    expect((await recordingOf(bench, run.id)).sampleCount).toBe(1000);
  });
});

describe('marks', () => {
  it('stand in order, also while it is recorded, and are taken away', async () => {
    const { body } = await bench.call<Recording>('POST', `/api/gadgets/${gadget.id}/recordings`, {
      name: 'live',
    });
    await until(
      () => recordingOf(bench, body.id),
      (r) => r.sampleCount > 30,
    );
    const now = (await act(body.id, 'markers', { timeS: null, text: 'door opened' })).body.markers[0]!;
    expect(now.timeS).toBeGreaterThan(2);
    expect(await act(body.id, 'trim', { keep: { fromS: 0, toS: 1 } })).toMatchObject({ status: 409 });
    expect((await bench.call('DELETE', `/api/recordings/${body.id}`)).status).toBe(409);
    await bench.call('POST', `/api/recordings/${body.id}/stop`);
    const stopped = await recordingOf(bench, body.id);
    expect(stopped.markers.map((m) => m.text)).toEqual(['door opened']);
    const early = await act(body.id, 'markers', { timeS: stopped.firstTimeS, text: 'begin' });
    expect(early.body.markers.map((m) => m.text)).toEqual(['begin', 'door opened']);
    expect(await act(body.id, 'markers', { timeS: 1e6, text: 'never' })).toMatchObject({ status: 422 });
    const left = await bench.call<Recording>('DELETE', `/api/recordings/${body.id}/markers/${now.id}`);
    expect(left.body.markers.map((m) => m.text)).toEqual(['begin']);
  });
});

describe('deleting', () => {
  it('hides a run, brings it back, and says both in the logbook', async () => {
    const run = await bring('to be deleted');
    expect((await bench.call('DELETE', `/api/recordings/${run.id}`)).status).toBe(204);
    expect(await names()).not.toContain('to be deleted');
    expect((await bench.call('GET', `/api/recordings/${run.id}`)).status).toBe(404);
    expect((await bench.call('DELETE', `/api/recordings/${run.id}`)).status).toBe(404);
    expect((await act(run.id, 'restore')).body.name).toBe('to be deleted');
    expect((await samplesOf(run.id)).times).toHaveLength(1000);
    const log = await bench.call<{ items: LogEntry[] }>('GET', `/api/gadgets/${gadget.id}/logbook?limit=100`);
    const text = log.body.items.map((e) => e.text).join('\n');
    expect(text).toMatch(/to be deleted" deleted/);
    expect(text).toMatch(/to be deleted" restored/);
  });

  it('frees the room after thirty days, but for what another run is made of', async () => {
    const [alone, owner] = [await bring('alone'), await bring('owner')];
    const { body } = await act<{ items: Recording[] }>(owner.id, 'split', { atS: 50 });
    const database = tables(bench.server.knex);
    for (const id of [alone.id, owner.id])
      await database.recordings.setDeleted(id, '2026-01-01T00:00:00.000Z');
    expect(await database.recordings.purge('2025-12-31T00:00:00.000Z')).toBe(0);
    expect(await database.recordings.purge('2026-02-01T00:00:00.000Z')).toBe(1);
    const chunks = async (id: string) =>
      (await bench.server.knex('chunks').where({ recording_id: id })).length;
    expect([await chunks(alone.id), await chunks(owner.id)]).toEqual([0, 1]);
    expect((await samplesOf(body.items[1]!.id)).times).toHaveLength(500);
  });

  it('is worth a look at the disk', async () => {
    const idle = (await bench.call<DiskState>('GET', '/api/disk')).body;
    expect(idle).toMatchObject({ bytesPerDay: 0, daysLeft: null });
    expect(idle.databaseBytes).toBeGreaterThan(50_000);
    const { body } = await bench.call<Recording>('POST', `/api/gadgets/${gadget.id}/recordings`, {
      name: 'x',
    });
    const busy = (await bench.call<DiskState>('GET', '/api/disk')).body;
    await bench.call('POST', `/api/recordings/${body.id}/stop`);
    expect(busy.bytesPerDay).toBeCloseTo(86_400 * 10 * 8 * 5 * 1.05, -2);
    expect(busy.daysLeft).toBeCloseTo(busy.freeBytes / busy.bytesPerDay, 6);
  });
});

const lowest = (values: readonly number[]) => values.reduce((a, b) => Math.min(a, b), Infinity);
const highest = (values: readonly number[]) => values.reduce((a, b) => Math.max(a, b), -Infinity);

describe('windows of long recordings', () => {
  it('tell the lowest and highest of every stretch at any zoom, gaps and missing numbers and all', async () => {
    const random = seededRandom(6);
    const N = 150_000;
    const times = new Float64Array(N);
    const values = new Float64Array(N);
    let t = 0;
    for (let i = 0; i < N; i++) {
      t += i === 70_000 ? 500 : 0.001;
      times[i] = t;
      values[i] = i % 997 === 0 ? Number.NaN : 100 * Math.sin(i / 9000) + random.normal();
    }
    values[123_456] = 5000;
    const { database, recording } = await storedRun({ a: values }, times, 1000);
    for (const [fromS, toS, points] of [
      [-1e9, 1e9, 20],
      [-1e9, 1e9, 200],
      [-1e9, 1e9, 2000],
      [20, 90, 50],
      [60, 580, 300],
      [30, 30.05, 2000],
    ] as const) {
      const block = decodeSampleBlock(await recordingWindow(database.knex, recording, fromS, toS, points));
      const { reducedBy } = block.header;
      const rows = block.times.length;
      expect(rows).toBeLessThanOrEqual(points === 2000 && reducedBy === 1 ? points : points * 1.2 + 2);
      const inside = [...times.keys()].filter((i) => times[i]! >= fromS && times[i]! <= toS);
      const good = inside.map((i) => values[i]!).filter((v) => !Number.isNaN(v));
      const shown = [...block.columns[0]!].filter((v) => !Number.isNaN(v));
      // Nothing that is outside by more than a bucket may show, and no peak may be lost.
      expect(highest(shown)).toBeGreaterThanOrEqual(highest(good));
      expect(lowest(shown)).toBeLessThanOrEqual(lowest(good));
      if (reducedBy === 1) expect(shown).toEqual(good);
      else
        for (let r = 0; r + 2 < rows; r += 2) {
          const ends = block.times[r + 2]!;
          const stretch = values.filter((_, i) => times[i]! >= block.times[r]! && times[i]! < ends);
          const numbers = [...stretch].filter((v) => !Number.isNaN(v));
          expect(block.columns[0]![r]).toBe(lowest(numbers));
          expect(block.columns[0]![r + 1]).toBe(highest(numbers));
          if (points === 2000) break;
        }
    }
    await database.close();
  });

  it('do not take a million samples into memory to make a few of them', async () => {
    const { id } = await bring('very long', 600_000, (i) => i % 1000);
    const window = (points: number) => samplesOf(id, `?points=${points}`);
    expect((await window(200_000)).header.reducedBy).toBe(64);
    expect((await window(2_000)).header.reducedBy).toBe(640);
    const all = await window(700_000);
    expect([all.header.reducedBy, all.times.length]).toEqual([1, 600_000]);

    // Cut through chunks at both ends: those between are counted by what stands beside them.
    const cut = await act(id, 'trim', { keep: { fromS: 10_000.05, toS: 40_000 } });
    expect(cut.body).toMatchObject({ sampleCount: 300_000, firstTimeS: 10_000.1, lastTimeS: 40_000 });
    const { body: halves } = await act<{ items: Recording[] }>(id, 'split', { atS: 20_000 });
    expect(halves.items.map((r) => r.sampleCount)).toEqual([99_999, 200_001]);
    const joined = await bench.call<Recording>('POST', `/api/gadgets/${gadget.id}/recordings/join`, {
      name: 'one again',
      ids: halves.items.map((r) => r.id),
    });
    expect(joined.body.sampleCount).toBe(300_000);
    expect(joined.body.lastTimeS! - joined.body.firstTimeS!).toBeCloseTo(29_999.9, 6);
  });
});

describe('how the readings of a stretch lie', () => {
  it('is told of a stretch, and says what is missing of one that is too short', async () => {
    const run = await bring('swing', 2000, (i) => Math.round(500 + 100 * Math.sin(2 * Math.PI * 0.1 * i)));
    const channel = gadget.channels[0]!;
    const line = {
      id: 'raw',
      line: { sources: channel.line.sources, stages: [] },
      slowestHz: null,
      warmUpS: 0,
    };
    const { status, body } = await act<ShapeAnswer>(run.id, 'shape', { line, fromS: 50, toS: 150 });
    expect(status).toBe(200);
    const fact = (title: string) => body.facts.find((f) => f.title === title)!.text;
    expect(fact('Based on')).toBe('1001 readings, 10.0 per second');
    expect(fact('Strongest oscillation')).toMatch(/^amplitude (9\d|10\d) counts? at (0\.99\d|1\.00) Hz$/);
    const short = await act(run.id, 'shape', { line, fromS: 50, toS: 51 });
    expect([short.status, short.body.detail]).toEqual([422, expect.stringContaining('32 are needed')]);
  });
});

describe('the steps of a load', () => {
  it('are where the first line stands still, with what it comes to there, by a rule proposed or asked for', async () => {
    const run = await bring('loads', 1200, (i) => [100, 600, 350][Math.floor(i / 400)]! + (i % 3) - 1);
    const line = {
      id: 'raw',
      line: { sources: gadget.channels[0]!.line.sources, stages: [] },
      slowestHz: null,
      warmUpS: 0,
    };
    const ask = (rule: object | null) =>
      act<StepsAnswer>(run.id, 'steps', { lines: [line], fromS: null, toS: null, rule });
    const { status, body } = await ask(null);
    expect([status, body.count]).toEqual([200, 3]);
    expect(body.why).toContain('noise');
    expect(body.steps.map((s) => Math.round(s.channels[0]!.mean!))).toEqual([100, 600, 350]);
    const strict = await ask({ ...body.rule, scatter: 0.01 });
    expect([strict.body.count, strict.body.why]).toEqual([0, '']);
    expect((await ask({ windowS: 0, drift: 1, scatter: 1 })).status).toBe(422);
  });
});
