import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { decodeSampleBlock, gpxWriter, nmeaFix, writeSenml, writeWav } from '@lucky-needle/core/formats';
import type { Gadget, Job, Problem, Recording, UploadFor } from '@lucky-needle/core/model';
import { openBench, until, type TestBench } from './bench.ts';
import { packageOf, zipped } from './zipped.ts';

let bench: TestBench;
let gadget: Gadget;
beforeAll(async () => {
  bench = await openBench();
  gadget = (
    await bench.call<Gadget>('POST', '/api/gadgets', { template: 'several-temperatures', name: 'Probes' })
  ).body;
});
afterAll(() => bench.close());

async function send(file: string | Uint8Array, name = 'file.txt') {
  const response = await fetch(`${bench.server.url}/api/gadgets/${gadget.id}/uploads?name=${name}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: file as never,
  });
  return { status: response.status, body: (await response.json()) as UploadFor & Problem };
}
const run = (id: string, columns: { at: number; name: string; unit: string }[], name = 'brought in') =>
  bench.call<Job & Problem>('POST', `/api/uploads/${id}/import`, { gadgetId: gadget.id, name, columns });
const ended = (id: string) =>
  until(
    async () => (await bench.call<Job>('GET', `/api/jobs/${id}`)).body,
    (job) => job.state !== 'running',
  );
const recording = async (id: string) => (await bench.call<Recording>('GET', `/api/recordings/${id}`)).body;
const samples = async (id: string) =>
  decodeSampleBlock(await (await fetch(`${bench.server.url}/api/recordings/${id}/window`)).arrayBuffer());
const total = async () =>
  (await bench.call<{ total: number }>('GET', `/api/gadgets/${gadget.id}/recordings`)).body.total;
const left = () => {
  try {
    return readdirSync(join(bench.dataDir, 'uploads')).length;
  } catch {
    return 0;
  }
};

const T0 = 1.7e9;
const rows = [0, 1, 2, 3].map((i) => ({ timeS: T0 + i, values: [50 + i / 1000, 8, 600 + i] }));
const track = (points: typeof rows) => {
  const writer = gpxWriter('walk');
  return writer.heading() + points.map((r) => writer.point(r.timeS, r.values)).join('') + writer.ending();
};
const named = (...names: string[]) => names.map((name) => ({ name, unit: null }));

describe('a file of any form', () => {
  it.each<[string, string | Uint8Array, string, string[], number]>([
    [
      'a table with tabs and decimal commas',
      'Zeit\tp1\n0,5\t1,5\n1,5\t2,5\n2,5\t3,5\n',
      'delimited text',
      ['p1'],
      3,
    ],
    ['a console log', 't=0.1 p1=5 C\nt=0.2 p1=6 C\nt=0.3 p1=7 C\n', 'console log', ['p1'], 3],
    ['JSON lines', '{"t":1,"p1":2,"x":1}\n{"t":2,"p1":3,"x":1}\n', 'JSON', ['p1', 'x'], 2],
    ['SenML', writeSenml('urn:', named('p1', 'p2'), rows), 'SenML', ['urn:p1', 'urn:p2'], 4],
    [
      'sentences',
      rows.map((r) => nmeaFix(r.timeS, [...r.values, 1, 2, 3, 4])).join(''),
      'NMEA',
      ['latitude'],
      4,
    ],
    ['a track', track(rows), 'GPX', ['latitude', 'longitude', 'altitude'], 4],
    ['a sound file', writeWav([Float64Array.from([0.1, 0.2, 0.3])], 8000), 'WAV', ['channel 1'], 3],
    [
      'data package (zip)',
      packageOf(
        named('p1'),
        rows.map((r) => ({ ...r, values: [1] })),
      ),
      'data package (zip)',
      ['p1'],
      4,
    ],
  ])('%s is told, looked at and stored', async (_, file, format, columns, count) => {
    const { status, body } = await send(file);
    expect(status).toBe(201);
    expect(body.upload.format).toContain(format);
    expect(body.upload.columns.map((c) => c.name)).toEqual(expect.arrayContaining(columns));
    expect(body.upload.rows.length).toBeGreaterThan(0);
    const at = body.upload.columns.findIndex((c) => c.name === columns[0]);
    const job = await run(body.upload.id, [{ at, name: 'p1', unit: 'count' }]);
    expect(job.status).toBe(202);
    const done = await ended(job.body.id);
    expect(done).toMatchObject({ state: 'done', progress: 1, problem: null });
    const made = await recording(done.result!);
    expect(made).toMatchObject({
      state: 'imported',
      sampleCount: count,
      sourceChecksum: body.upload.checksum,
    });
    expect((await samples(made.id)).columns[0]!.every(Number.isFinite)).toBe(true);
    expect(left()).toBe(0);
  });

  it('is known again by its checksum, whatever it is called', async () => {
    const file = 'time [s],p1\n0,1\n1,2\n';
    const first = await send(file, 'a.csv');
    await ended(
      (await run(first.body.upload.id, [{ at: 0, name: 'p1', unit: 'count' }], 'first time')).body.id,
    );
    const again = await send(file, 'b.csv');
    expect(again.body.known.map((k) => k.name)).toEqual(['first time']);
    expect((await send(`${file}2,3\n`)).body.known).toEqual([]);
    expect((await bench.call('DELETE', `/api/uploads/${again.body.upload.id}`)).status).toBe(204);
    expect((await bench.call('DELETE', `/api/uploads/${again.body.upload.id}`)).status).toBe(404);
  });

  it('without times is shown at the pace that it will have', async () => {
    const { body } = await send('p1=5 C\np1=6 C\np1=7 C\n');
    expect(body.upload.sampleRateHz).toBeCloseTo(gadget.sampleRateHz, 6);
    const done = await ended((await run(body.upload.id, [{ at: 0, name: 'p1', unit: 'count' }])).body.id);
    const made = await recording(done.result!);
    expect(made.sampleRateHz).toBeCloseTo(body.upload.sampleRateHz!, 6);
    expect(made.lastTimeS).toBeCloseTo(body.upload.rows.at(-1)!.timeS, 6);
  });

  it('whose clock was set back is whole, and says so without a word of lost rows', async () => {
    const { body } = await send('time [s],p1\n100,1\n101,2\n50,3\n51,4\n');
    const done = await ended((await run(body.upload.id, [{ at: 0, name: 'p1', unit: 'count' }])).body.id);
    const made = await recording(done.result!);
    expect(made).toMatchObject({ sampleCount: 4, firstTimeS: 100, lastTimeS: 103, note: '' });
    expect(made.issues).toMatchObject([{ code: 'clock-set', row: 4 }]);
  });

  it('keeps its good rows, numbers the bad ones, and tells when it was made', async () => {
    const file = `when;p1;p2\n2026-03-01 10:00:00;1;2\n2026-03-01 10:00:01;oops;2\n2026-03-01 10:00:02;3;\n`;
    const { body } = await send(file);
    expect(body.matched).toEqual(['p1', 'p2']);
    expect(body.upload.time).toBe('column 1, dates');
    expect(body.upload.issues).toMatchObject([{ code: 'not-a-number', row: 3 }]);
    const columns = [0, 1].map((at) => ({ at, name: `p${at + 1}`, unit: 'count' }));
    const done = await ended((await run(body.upload.id, columns)).body.id);
    const made = await recording(done.result!);
    expect(made).toMatchObject({
      sampleCount: 2,
      startedAt: '2026-03-01T10:00:00.000Z',
      endedAt: '2026-03-01T10:00:02.000Z',
      note: '1 row could not be read.',
    });
    expect([...(await samples(made.id)).columns[1]!]).toEqual([2, Number.NaN]);
  });

  it.each<[string, string | Uint8Array, RegExp]>([
    ['nothing', '', /file is empty/],
    ['bytes that are no text', Uint8Array.from([1, 0, 2, 0, 3]), /binary file/],
    ['words', 'once upon a time\nthere was a mill\n', /separator|numbers/],
    ['a zip that is cut short', Uint8Array.from([80, 75, 3, 4, 0, 0]), /not a zip file/],
    ['a zip that is no package', zipped({ a: '' }), /no datapackage.json/],
    [
      'a package that names a file beside it',
      zipped({ 'datapackage.json': '{"resources":[{"path":"../../etc/hosts"}]}' }),
      /does not contain the data file/,
    ],
    [
      'a package without its table',
      zipped({ 'datapackage.json': '{"resources":[{"path":"data.csv"}]}' }),
      /refers to data.csv, but the zip file does not contain it/,
    ],
    [
      'a package of words',
      zipped({ 'datapackage.json': '{"resources":[{"path":"a.csv"}]}', 'a.csv': 'once upon a time' }),
      /a.csv: /,
    ],
    ['a page', '<?xml version="1.0"?><html/>', /XML, but not a GPX/],
  ])('%s is refused, and leaves nothing behind', async (_, file, told) => {
    const before = left();
    expect(await send(file)).toMatchObject({ status: 422, body: { detail: expect.stringMatching(told) } });
    expect(left()).toBe(before);
  });

  it.each<[string, 0 | 6, number]>([
    ['at once, where it is short', 0, 100],
    ['at the end, where it is long', 0, 200_000],
    ['where it cannot be opened', 6, 200_000],
  ])('a damaged package is told %s, and leaves nothing behind', async (_, level, length) => {
    const table = `time [s],p1\n${Array.from({ length }, (_, i) => `${i},${(i * i) % 1021}`).join('\n')}\n`;
    const pack = zipSync({
      'datapackage.json': [strToU8('{"resources":[{"path":"a.csv"}]}'), { level: 0 }],
      'a.csv': [strToU8(table), { level }],
    });
    // Another digit near the end of the table, or no longer what the packing understands.
    pack.fill(level === 0 ? 56 : 255, pack.length - 400, level === 0 ? pack.length - 398 : pack.length - 250);
    const [before, files] = [await total(), left()];
    const { status, body } = await send(pack);
    if (length > 1000) {
      expect(status).toBe(201);
      const job = await run(body.upload.id, [{ at: 0, name: 'p1', unit: 'count' }]);
      expect(await ended(job.body.id)).toMatchObject({
        state: 'failed',
        problem: {
          detail: 'a.csv in the zip file is damaged.',
          wayOut: expect.stringMatching(/Nothing was stored/),
        },
      });
      await bench.call('DELETE', `/api/uploads/${body.upload.id}`);
    } else expect([status, body.detail]).toEqual([422, 'a.csv in the zip file is damaged.']);
    expect([await total(), left()]).toEqual([before, files]);
  });

  it('is not taken with columns that it has not, nor two of one name', async () => {
    const { body } = await send('time [s],a,b\n0,1,2\n1,2,3\n');
    const take = (...columns: [number, string][]) =>
      run(
        body.upload.id,
        columns.map(([at, name]) => ({ at, name, unit: 'count' })),
      );
    expect((await take([5, 'p1'])).body.detail).toMatch(/has 2 columns; column 5 does not exist/);
    expect((await take([0, 'p1'], [1, 'p1'])).body.detail).toMatch(/Two columns have the name "p1"/);
    expect((await run('nobody', [{ at: 0, name: 'p1', unit: 'count' }])).status).toBe(404);
  });

  it('can be cancelled, and is gone without a trace', async () => {
    const before = await total();
    const large = `time [s],p1\n${Array.from({ length: 600_000 }, (_, i) => `${i},${i % 500}`).join('\n')}\n`;
    const { body } = await send(large);
    const job = await run(body.upload.id, [{ at: 0, name: 'p1', unit: 'count' }]);
    await bench.call('POST', `/api/jobs/${job.body.id}/cancel`);
    expect((await ended(job.body.id)).state).toBe('cancelled');
    expect(await total()).toBe(before);
    expect(await bench.server.knex('chunks').where('count', '>', 4000)).toEqual([]);
    // The upload is still there for another try.
    const again = await ended((await run(body.upload.id, [{ at: 0, name: 'p1', unit: 'count' }])).body.id);
    expect((await recording(again.result!)).sampleCount).toBe(600_000);
  });
});

it('a file that is forgotten while it is stored is stored all the same', async () => {
  const { body } = await send(
    `time [s],p1\n${Array.from({ length: 400_000 }, (_, i) => `${i},${i % 500}`).join('\n')}\n`,
  );
  const { id } = body.upload;
  const job = await run(id, [{ at: 0, name: 'p1', unit: 'count' }]);
  await until(
    async () => (await bench.call<Job>('GET', `/api/jobs/${job.body.id}`)).body,
    ({ progress }) => progress > 0,
  );
  expect((await bench.call('DELETE', `/api/uploads/${id}`)).status).toBe(204);
  const done = await ended(job.body.id);
  expect(done).toMatchObject({ state: 'done', problem: null });
  expect((await recording(done.result!)).sampleCount).toBe(400_000);
});

describe('a file in one request', () => {
  const rowsOf = (from: number, to: number) =>
    Array.from({ length: to - from }, (_, i) => `${from + i},${(from + i) % 500},1,2,3\n`).join('');
  const head = 'time [s],p1,p2,p3,p4\n';
  const post = (name: string, body: PassThrough | string) =>
    fetch(`${bench.server.url}/api/gadgets/${gadget.id}/recordings/import?name=${name}`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/csv' },
      body: body as never,
      duplex: 'half',
    } as RequestInit);
  const chunks = async () =>
    Number(((await bench.server.knex('chunks').count({ n: '*' }).first()) as { n: number }).n);

  it('is stored while it comes in, and known again by its checksum', async () => {
    const [before, files] = [await chunks(), left()];
    const body = new PassThrough();
    const answer = post('streamed', body);
    body.write(head + rowsOf(0, 300_000));
    // What has come is there before the rest was sent.
    expect(await until(chunks, (n) => n > before)).toBeGreaterThan(before);
    body.end(rowsOf(300_000, 400_000));
    const response = await answer;
    expect(response.status).toBe(201);
    const made = (await response.json()) as Recording;
    expect(made).toMatchObject({
      state: 'imported',
      sampleCount: 400_000,
      firstTimeS: 0,
      lastTimeS: 399_999,
    });
    const again = await send(head + rowsOf(0, 400_000));
    expect(again.body.upload.checksum).toBe(made.sourceChecksum);
    expect(again.body.known).toContainEqual({ id: made.id, name: 'streamed' });
    await bench.call('DELETE', `/api/uploads/${again.body.upload.id}`);
    expect(left()).toBe(files);
  });

  it('that breaks off leaves nothing behind', async () => {
    const [before, runs, files] = [await chunks(), await total(), left()];
    const body = new PassThrough();
    const answer = post('broken', body);
    body.write(head + rowsOf(0, 300_000));
    await until(chunks, (n) => n > before);
    body.destroy(new Error('cable pulled'));
    await expect(answer).rejects.toThrow();
    expect(await until(total, (n) => n === runs)).toBe(runs);
    expect(await until(chunks, (n) => n === before)).toBe(before);
    await until(
      async () => left(),
      (n) => n === files,
    );
  });

  it('is answered at its end where its head is refused already, and leaves nothing behind', async () => {
    const [runs, files] = [await total(), left()];
    const long = rowsOf(0, 200_000);
    const unknown = await post('unknown', `time [s],a,b,c,d\n${long}`);
    expect([unknown.status, ((await unknown.json()) as Problem).detail]).toEqual([
      422,
      expect.stringMatching(/contains a, b, c, d; this gadget needs p1, p2, p3, p4/),
    ]);
    const noTable = await post('words', 'once upon a time there was a mill\n'.repeat(60_000));
    expect([noTable.status, ((await noTable.json()) as Problem).detail]).toEqual([
      422,
      expect.stringMatching(/separator|numbers/),
    ]);
    expect([await total(), left()]).toEqual([runs, files]);
  });

  it('is waited for where it is a package, whose directory is at its end', async () => {
    const pack = packageOf(
      named('p1'),
      rows.map((r) => ({ ...r, values: [1] })),
    );
    const body = new PassThrough();
    const answer = post('package', body);
    body.write(pack.subarray(0, pack.length >> 1));
    await new Promise((done) => setTimeout(done, 50));
    body.end(pack.subarray(pack.length >> 1));
    expect((await (await answer).json()) as Recording).toMatchObject({ sampleCount: 4 });
  });
});

describe('a run as a file', () => {
  const bring = async () => {
    const { body } = await send(
      `time [s],p1,p2,p3,p4\n${[0, 1, 2, 3, 4].map((i) => `${i},${500 + i},1,2,3`).join('\n')}\n`,
    );
    const columns = [0, 1, 2, 3].map((at) => ({ at, name: `p${at + 1}`, unit: 'count' }));
    return (await ended((await run(body.upload.id, columns, 'out and in')).body.id)).result!;
  };
  const out = (id: string, format: string, query = '') =>
    fetch(`${bench.server.url}/api/recordings/${id}/export/${format}${query}`);

  it.each([
    ['csv', 'p1 raw'],
    ['tsv', 'p1 raw'],
    ['ndjson', 'p1 raw'],
    ['senml', 'p1_raw'],
    ['wav', 'channel 1'],
    ['package', 'p1 raw'],
  ])('%s comes back to the same raw samples', async (format, column) => {
    const id = await bring();
    const response = await out(id, format);
    expect(response.headers.get('content-disposition')).toContain('out-and-in.');
    const { status, body } = await send(new Uint8Array(await response.arrayBuffer()));
    expect([status, body.detail]).toEqual([201, undefined]);
    const at = body.upload.columns.findIndex((c) => c.name.endsWith(column) || c.name.includes('p1 raw'));
    expect(at, JSON.stringify(body.upload.columns)).toBeGreaterThanOrEqual(0);
    const done = await ended((await run(body.upload.id, [{ at, name: 'p1', unit: 'count' }])).body.id);
    expect([...(await samples(done.result!)).columns[0]!]).toEqual([500, 501, 502, 503, 504]);
  });

  it('tells by which line and calibration its readings were made, and can leave them out', async () => {
    const id = await bring();
    const meta = (await (await out(id, 'meta')).json()) as { readings: { channel: string; line: object }[] };
    expect(meta.readings).toHaveLength(4);
    expect(meta.readings[0]).toMatchObject({ calibration: null, line: { sources: [{ column: 'p1' }] } });
    expect((await (await out(id, 'csv', '?raw=1')).text()).split('\r\n')[0]).not.toContain('degC');
  });

  it('is refused in a form that cannot hold it', async () => {
    const id = await bring();
    expect((await out(id, 'gpx')).status).toBe(422);
    expect((await out(id, 'nmea')).status).toBe(422);
    expect((await out(id, '..%2fetc')).status).toBe(404);
  });

  it('comes as a track where it has positions, without the points that have none', async () => {
    const { body } = await send(track(rows));
    const columns = ['latitude', 'longitude', 'altitude'].map((name, at) => ({
      at,
      name,
      unit: body.upload.columns[at]!.unit!,
    }));
    const id = (await ended((await run(body.upload.id, columns)).body.id)).result!;
    expect(await (await out(id, 'gpx')).text()).toBe(track(rows).replace('walk', 'brought in'));
  });

  it('comes as a track from columns of one’s own, by other names and counted in parts of a degree', async () => {
    const { body } = await send(
      'time [s],lat,lon,sats\n1800000000,500000000,80000000,7\n1800000001,50.1,8.1,8\n',
    );
    expect(body.matched).toEqual(['lat', 'lon', 'sats']);
    const columns = ['lat', 'lon', 'sats'].map((name, at) => ({ at, name, unit: 'count' }));
    const id = (await ended((await run(body.upload.id, columns)).body.id)).result!;
    const gpx = await (await out(id, 'gpx')).text();
    expect(
      [...gpx.matchAll(/lat="([^"]*)" lon="([^"]*)"/g)].map(([, a, b]) => [Number(a), Number(b)]),
    ).toEqual([
      [50, 8],
      [50.1, 8.1],
    ]);
    const sentences = (await (await out(id, 'nmea')).text()).split('\r\n');
    expect(sentences[1]).toMatch(/^\$GPGGA,.*5000\.000000,N,00800\.000000,E,1,07,/);
  });

  it('of millions of readings goes out as a package, and comes back', async () => {
    const count = 2_100_000;
    const body = new PassThrough();
    const sent = fetch(`${bench.server.url}/api/gadgets/${gadget.id}/recordings/import?name=long`, {
      method: 'POST',
      body: body as never,
      duplex: 'half',
    } as RequestInit);
    body.write('time [s],p1\n');
    for (let from = 0; from < count; from += 100_000)
      body.write(Array.from({ length: 100_000 }, (_, i) => `${from + i},${(from + i) % 1024}\n`).join(''));
    body.end();
    const { id } = (await (await sent).json()) as Recording;
    const pack = new Uint8Array(await (await out(id, 'package', '?raw=1')).arrayBuffer());
    const again = await send(pack, 'long.zip');
    expect(again.body.upload).toMatchObject({ time: 'column 1, seconds', sampleRateHz: 1 });
    const job = await run(again.body.upload.id, [{ at: 0, name: 'p1', unit: 'count' }]);
    const made = await recording((await ended(job.body.id)).result!);
    expect(made).toMatchObject({ sampleCount: count, firstTimeS: 0, lastTimeS: count - 1, note: '' });
    const { columns } = decodeSampleBlock(
      await (
        await fetch(`${bench.server.url}/api/recordings/${made.id}/window?from=2000000&to=2000010`)
      ).arrayBuffer(),
    );
    expect([...columns[0]!]).toEqual(Array.from({ length: 11 }, (_, i) => (2_000_000 + i) % 1024));
  }, 60_000);

  it.each(['csv', 'package'])(
    'is made no further as %s when the one who reads it has left',
    async (format) => {
      const { body } = await send(
        `time [s],p1\n${Array.from({ length: 300_000 }, (_, i) => `${i},${(i * i) % 1021}`).join('\n')}\n`,
      );
      const id = (await ended((await run(body.upload.id, [{ at: 0, name: 'p1', unit: 'count' }])).body.id))
        .result!;
      let asked = 0;
      const counted = (query: { sql: string }) => void (asked += /from `?chunks\b/i.test(query.sql) ? 1 : 0);
      bench.server.knex.on('query', counted);
      const leaving = new AbortController();
      const response = await fetch(`${bench.server.url}/api/recordings/${id}/export/${format}`, {
        signal: leaving.signal,
      });
      const reader = response.body!.getReader();
      await reader.read();
      leaving.abort();
      await expect(reader.read()).rejects.toThrow();
      // As long as it takes to come to rest, it has not come to the end.
      let before = -1;
      await expect
        .poll(
          () => {
            const still = asked === before;
            before = asked;
            return still;
          },
          { interval: 300 },
        )
        .toBe(true);
      expect(asked).toBeLessThan(Math.ceil(300_000 / 4096));
      bench.server.knex.off('query', counted);
    },
  );
});
