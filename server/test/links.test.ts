import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import {
  appendFileSync,
  mkdirSync,
  renameSync,
  rmSync,
  symlinkSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { connectAsync, type MqttClient } from 'mqtt';
import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type {
  Gadget,
  Link,
  LinkLines,
  LinkSettings,
  MadeLink,
  Problem,
  PushAnswer,
  Recording,
} from '@lucky-needle/core/model';
import { isUnder } from '../src/capture/broker.ts';
import type { LinkRunner } from '../src/capture/linkRunner.ts';
import { packetLimit } from '../src/capture/packetLimit.ts';
import { alarmRule } from './alarmRule.ts';
import { openBench, recordingOf, until, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const create = async () =>
  (await bench.call<Gadget>('POST', '/api/gadgets', { template: 'several-temperatures', name: 'Probes' }))
    .body;
async function linked(settings: LinkSettings) {
  const gadget = await create();
  const { body, status } = await bench.call<MadeLink>('POST', `/api/gadgets/${gadget.id}/link`, {
    settings,
    mapping: null,
  });
  expect(status).toBe(201);
  const runner = bench.server.links.of(gadget.id)!;
  return { id: gadget.id, link: body.link, token: body.token, runner };
}
const lookAt = async (id: string) =>
  (await bench.call<LinkLines>('GET', `/api/gadgets/${id}/link/lines`)).body;
const taken = ({ live }: LinkRunner): number[][] => {
  live.run();
  return Array.from(live.raw.times, (_, i) => live.columns.map((_c, k) => live.raw.column(k)[i]!));
};
const row = (n: number) => `p1=${n} p2=2 p3=3 p4=4\n`;

describe('a gadget that pushes', () => {
  const reading = (n: number) => ({ t: n / 10, seq: n, values: { p1: 500 + n, p2: 2, p3: 3, p4: 4 } });
  const send = (link: Link, token: string, body: unknown) =>
    bench.call<PushAnswer & Problem>('POST', `/api/push/${link.id}`, body, {
      Authorization: `Bearer ${token}`,
    });

  it('sends one reading or many, and is told what became of them', async () => {
    const { link, token, runner } = await linked({ kind: 'push' });
    expect((await send(link, token!, reading(0))).body).toEqual({
      accepted: 1,
      duplicated: 0,
      late: 0,
      refused: [],
    });
    const batch = [1, 2, 2, 4, 3].map(reading);
    const odd = [
      { t: -5, seq: 9, values: { p1: 1 } },
      { t: 'soon', seq: 10, values: { p1: 1 } },
      { t: 1, seq: 11, values: { elsewhere: 1 } },
    ];
    const answer = await send(link, token!, { readings: [...batch, ...odd] });
    expect(answer.body).toMatchObject({ accepted: 4, duplicated: 1 });
    expect(answer.body.refused.map((r) => r.index)).toEqual([5, 6, 7]);
    expect(answer.body.refused[2]!.reason).toMatch(/none of the columns p1, p2, p3, p4; it has elsewhere/);
    await until(
      () => taken(runner),
      (rows) => rows.length === 5,
    );
    expect(taken(runner).map((r) => r[0])).toEqual([500, 501, 502, 503, 504]);
  });

  it('needs the token of just this link, which is told once and can be made anew', async () => {
    const a = await linked({ kind: 'push' });
    const b = await linked({ kind: 'push' });
    for (const [link, token] of [
      [a.link, b.token!],
      [a.link, ''],
      [a.link, `${a.token!}x`],
      [{ ...a.link, id: 'nobody' }, a.token!],
    ] as const)
      expect(await send(link, token, reading(1))).toMatchObject({
        status: 401,
        body: { code: 'wrong-token' },
      });
    expect(JSON.stringify((await bench.call('GET', `/api/gadgets/${a.id}/link`)).body)).not.toContain(
      a.token!,
    );
    const renewed = await bench.call<MadeLink>('POST', `/api/gadgets/${a.id}/link/token`);
    expect((await send(a.link, a.token!, reading(1))).status).toBe(401);
    expect((await send(a.link, renewed.body.token!, reading(1))).status).toBe(200);
  });

  it.each<[string, unknown, number]>([
    ['no reading', { readings: [] }, 422],
    ['text for a number', { values: { p1: '5' } }, 422],
    ['an unknown field', { values: { p1: 5 }, colour: 'red' }, 422],
    ['no JSON', '{"values":', 400],
    ['too much', { readings: Array.from({ length: 10_001 }, () => ({ values: { p1: 1 } })) }, 422],
    ['more than a megabyte', 'x'.repeat(1_100_000), 413],
    ['something deeply nested', `${'{"values":'.repeat(5000)}1${'}'.repeat(5000)}`, 422],
  ])('%s is refused', async (_, body, status) => {
    const { link, token } = await linked({ kind: 'push' });
    expect((await send(link, token!, body)).status).toBe(status);
  });

  it('may send in pieces of any size, packed, or with other words for JSON', async () => {
    const { link, token } = await linked({ kind: 'push' });
    const text = JSON.stringify(reading(1));
    const send = (body: string | ReadableStream | Uint8Array, headers: Record<string, string>) =>
      fetch(`${bench.server.url}/api/push/${link.id}`, {
        method: 'POST',
        body,
        headers: { 'Content-Type': 'application/json', Authorization: `Bearer ${token}`, ...headers },
        duplex: 'half',
      } as RequestInit).then(async (r) => [r.status, ((await r.json()) as PushAnswer).accepted]);
    const stream = new ReadableStream({
      start(to) {
        for (const c of text) to.enqueue(new TextEncoder().encode(c));
        to.close();
      },
    });
    expect(await send(stream, {})).toEqual([200, 1]);
    expect(
      await send(gzipSync(text.replace(/"seq":1/, '"seq":2').replace(/"t":0.1/, '"t":0.2')), {
        'Content-Encoding': 'gzip',
      }),
    ).toEqual([200, 1]);
    expect((await send(text, { 'Content-Type': 'text/plain' }))[0]).toBe(422);
  });

  it('is recorded with its own times, back-fill and all', async () => {
    const { id, link, token } = await linked({ kind: 'push' });
    const started = await bench.call<Recording>('POST', `/api/gadgets/${id}/recordings`, { name: 'pushed' });
    await send(link, token!, { readings: [0, 1, 2].map(reading) });
    // An outage of a minute, sent afterwards in one go.
    await send(link, token!, { readings: Array.from({ length: 600 }, (_, i) => reading(3 + i)) });
    const stopped = await bench.call<Recording>('POST', `/api/recordings/${started.body.id}/stop`);
    expect(stopped.body).toMatchObject({ sampleCount: 603, firstTimeS: 0, lastTimeS: 60.2, lostReadings: 0 });
  });
});

describe('a board on a cable', () => {
  const type = (id: string, text: string) =>
    bench.call<Problem>('POST', `/api/gadgets/${id}/link/text`, { text });

  it('is understood from its lines, wherever the pieces are cut, and otherwise by a mapping', async () => {
    const { id, runner } = await linked({ kind: 'serial', baud: 115200 });
    const text = [
      'booting…',
      ...[1, 2, 3, 4, 5, 6].map((i) => `${i * 100};${i};${i + 1};${i + 2};${i + 3}`),
    ].join('\r\n');
    for (let i = 0; i < text.length; i += 7) await type(id, text.slice(i, i + 7));
    await type(id, '\r\n');
    expect(taken(runner).at(-1)).toEqual([6, 7, 8, 9]);
    const looked = await lookAt(id);
    expect(looked).toMatchObject({ read: 6, unread: 0, used: { delimiter: ';', time: { unit: 'ms' } } });
    const mapping = { ...looked.used!, columns: [{ column: 'p1', field: '5' }] };
    expect((await bench.call<Link>('PATCH', `/api/gadgets/${id}/link`, { mapping })).body.mapping).toEqual(
      mapping,
    );
    await type(id, '700;7;8;9;10\n');
    expect(taken(runner).at(-1)).toEqual([10, Number.NaN, Number.NaN, Number.NaN]);
    // And stays so over a restart of the link.
    const link = await bench.call<Link>('PATCH', `/api/gadgets/${id}/link`, {
      settings: { kind: 'serial', baud: 9600 },
    });
    expect(link.body).toMatchObject({ mapping, settings: { baud: 9600 } });
  });

  it('may send noise, endless lines and a flood: counted, never fatal', async () => {
    const { id, runner } = await linked({ kind: 'serial', baud: 115200 });
    for (let i = 0; i < 6; i++) await type(id, row(i));
    const noise = Buffer.from(Array.from({ length: 20_000 }, (_, i) => (i * 7919) % 251)).toString('latin1');
    await type(id, `${noise}\n`);
    for (let i = 0; i < 12; i++) await type(id, 'x'.repeat(890_000));
    await type(id, '\n');
    const flood = Array.from({ length: 20_000 }, (_, i) => row(i)).join('');
    await type(id, flood);
    await type(id, row(77));
    expect(taken(runner).at(-1)![0]).toBe(77);
    expect(runner.status.badLines).toBeGreaterThan(10);
    expect(runner.status.lastBadLine!.length).toBeLessThan(120);
    expect(runner.status.lastBadLine).toMatch(/^Unreadable line \([a-z ]+\): /);
  });

  it('may send what is no number and times below nothing: missing, or counted', async () => {
    const { id, runner } = await linked({ kind: 'serial', baud: 115200 });
    for (let i = 0; i < 6; i++) await type(id, `t=${i} ${row(i)}`);
    await type(id, 't=6 p1=nan p2=2 p3=3 p4=4\n');
    const { badLines } = runner.status;
    await type(id, 't=7 p1=inf p2=2 p3=3 p4=4\n');
    await type(id, 't=-5 p1=7 p2=2 p3=3 p4=4\n');
    await type(id, 't=8 p1=8 p2=2 p3=3 p4=4\n');
    await until(
      () => taken(runner),
      (rows) => rows.some(([p1]) => p1 === 8),
    );
    expect(taken(runner).slice(-2)).toEqual([
      [Number.NaN, 2, 3, 4],
      [8, 2, 3, 4],
    ]);
    expect(runner.status.badLines).toBe(badLines + 2);
  });

  it('takes no text for another kind of link', async () => {
    const { id } = await linked({ kind: 'push' });
    expect(await type(id, 'p1=1\n')).toMatchObject({ status: 409, body: { code: 'no-cable' } });
  });
});

describe('a log file', () => {
  const path = (name: string) => join(bench.dataDir, name);
  const newest = (runner: Awaited<ReturnType<typeof linked>>['runner'], n: number) =>
    until(
      () => taken(runner).at(-1)?.[0],
      (v) => v === n,
    );

  it('is followed from its end, through being emptied and being replaced', async () => {
    const file = path('a.log');
    writeFileSync(file, Array.from({ length: 50 }, (_, i) => row(i)).join(''));
    const { runner } = await linked({ kind: 'file', path: file });
    await new Promise((done) => setTimeout(done, 500));
    expect(taken(runner)).toEqual([]);
    for (let i = 100; i < 105; i++) appendFileSync(file, row(i));
    await newest(runner, 104);
    // Half a line waits for its other half.
    appendFileSync(file, 'p1=2');
    await new Promise((done) => setTimeout(done, 400));
    appendFileSync(file, '00 p2=2 p3=3 p4=4\n');
    await newest(runner, 200);
    truncateSync(file);
    appendFileSync(file, row(300));
    await newest(runner, 300);
    renameSync(file, path('a.log.1'));
    writeFileSync(file, row(400));
    await newest(runner, 400);
    expect(runner.status).toMatchObject({ problem: null, badLines: 0 });
  });

  it('that is not there yet is waited for, and then read from its start', async () => {
    const { runner } = await linked({ kind: 'file', path: path('later.log') });
    await until(
      () => runner.status.problem,
      (p) => p !== null,
    );
    expect(runner.status.problem).toMatch(/later\.log does not exist yet\. Waiting for it/);
    writeFileSync(path('later.log'), [1, 2, 3, 4, 5].map(row).join(''));
    await newest(runner, 5);
    expect(runner.status.problem).toBeNull();
  });

  it('is refused outside the folders that were allowed, by whatever path', async () => {
    mkdirSync(path('logs'), { recursive: true });
    symlinkSync('/etc/passwd', path('logs/sly.log'));
    symlinkSync('/etc', path('logs/sly'));
    const gadget = await create();
    for (const file of [
      '/etc/passwd',
      `${bench.dataDir}/../other.log`,
      'relative.log',
      path('logs/sly.log'),
      path('logs/sly/hosts'),
      path('nowhere/x.log'),
      `${bench.dataDir}x/y.log`,
    ]) {
      const answer = await bench.call<Problem>('POST', `/api/gadgets/${gadget.id}/link`, {
        settings: { kind: 'file', path: file },
        mapping: null,
      });
      expect(answer, file).toMatchObject({ status: 422, body: { code: 'cannot-follow' } });
    }
  });
});

describe('a log file that turns into something else', () => {
  it('is read on only while it is a plain file where it may be followed', async () => {
    const log = join(bench.dataDir, 'turns.log');
    writeFileSync(log, '');
    const { runner } = await linked({ kind: 'file', path: log });
    await until(
      () => runner.status.problem,
      (p) => p === null,
    );
    rmSync(log);
    execFileSync('mkfifo', [log]);
    expect(
      await until(
        () => runner.status.problem ?? '',
        (p) => p.includes('not a regular file'),
      ),
    ).toMatch(/Cannot read .*: not a regular file/);
    rmSync(log);
    symlinkSync('/etc/hostname', log);
    expect(
      await until(
        () => runner.status.problem ?? '',
        (p) => p.includes('leads out'),
      ),
    ).toMatch(/leads out of the folders allowed for log files/);
    expect(runner.status.badLines).toBe(0);
    rmSync(log);
    writeFileSync(log, '');
    await until(
      () => runner.status.problem,
      (p) => p === null,
    );
  });
});

describe('a topic', () => {
  async function follows(broker: string | null, address: string) {
    const { id, link, token, runner } = await linked({ kind: 'mqtt', broker, topic: 'mill/kiln' });
    await until(
      () => runner.status.problem,
      (p) => p === null,
    );
    const isOwn = broker === null;
    const client = await connectAsync(address, isOwn ? { username: link.id, password: token! } : {});
    for (let i = 0; i < 20; i++)
      await client.publishAsync('mill/kiln', JSON.stringify({ t: i, p1: i, p2: 2 }));
    if (!isOwn) await client.publishAsync('mill/other', JSON.stringify({ t: 99, p1: 99 }));
    await client.publishAsync('mill/kiln', Buffer.from([0, 159, 146, 150, 255]));
    await until(
      () => taken(runner).length,
      (n) => n >= 16,
    );
    expect(taken(runner).at(-1)!.slice(0, 2)).toEqual([19, 2]);
    expect(runner.status.badLines).toBe(1);
    await client.endAsync();
    return { id, link, token, runner };
  }

  it('of the bench’s own broker takes what its own link shows, and nothing else', async () => {
    const { address } = (await bench.call<{ address: string }>('GET', '/api/broker')).body;
    const { link, token, runner } = await linked({ kind: 'mqtt', broker: null, topic: 'mill/+/blow' });
    await until(
      () => runner.status.problem,
      (p) => p === null,
    );
    const once = { reconnectPeriod: 0, connectTimeout: 4000 };
    const right = { ...once, username: link.id, password: token! };
    const message = (t: number) => JSON.stringify({ t, p1: t, p2: 2 });
    /** Whether the connection is still there after an attempt. */
    const survives = async (attempt: (client: MqttClient) => Promise<unknown>) => {
      const client = await connectAsync(address, right);
      const closed = new Promise((done) => client.once('close', () => done(false)));
      await Promise.race([closed, attempt(client).catch(() => undefined)]);
      const alive = client.publishAsync('mill/a/blow', message(1), { qos: 1 }).then(() => true);
      const outcome = await Promise.race([closed, alive.catch(() => false)]);
      await client.endAsync(true);
      return outcome;
    };
    for (const wrong of [
      {},
      { username: link.id, password: `${token!}x` },
      { username: 'bench', password: 'bench' },
      // As many letters as the bench's own, and more bytes.
      { username: 'bench', password: 'ü'.repeat(32) },
    ])
      await expect(connectAsync(address, { ...once, ...wrong })).rejects.toThrow(/Not authorized|Bad user/i);
    expect(await survives((c) => c.publishAsync('mill/a/blow', message(0), { qos: 1 }))).toBe(true);
    expect(await survives((c) => c.publishAsync('mill/a/other', message(9), { qos: 1 }))).toBe(false);
    expect(await survives((c) => c.publishAsync('mill/a/blow', 'x'.repeat(70_000), { qos: 1 }))).toBe(false);
    // Nobody but the bench listens, and nothing is kept for those who come later.
    const listener = await connectAsync(address, right);
    const heard: string[] = [];
    listener.on('message', (topic) => heard.push(topic));
    await listener.subscribeAsync('mill/#').catch(() => undefined);
    for (const t of [5, 6, 7, 8])
      await listener.publishAsync('mill/a/blow', message(t), { qos: 1, retain: true });
    await listener.endAsync();
    expect(heard).toEqual([]);
    await until(
      () => taken(runner).map((r) => r[0]),
      (seen) => seen.includes(8),
    );
    expect(taken(runner).every(([p1]) => p1! < 9)).toBe(true);
  });

  it('tells its alarms under a topic of their own, to its own link and no other', async () => {
    const { address } = (await bench.call<{ address: string }>('GET', '/api/broker')).body;
    const { id, link, token, runner } = await linked({ kind: 'mqtt', broker: null, topic: 'mill/hot/+' });
    const other = await linked({ kind: 'mqtt', broker: null, topic: 'mill/cold' });
    await until(
      () => runner.status.problem ?? other.runner.status.problem,
      (p) => p === null,
    );
    const { body: gadget } = await bench.call<Gadget>('GET', `/api/gadgets/${id}`);
    const { unit } = runner.live.lineOf(gadget.channels[0]!.id)!.outputs[0]!;
    const rule = alarmRule({
      id: 'far',
      name: 'Far “off”',
      channelId: gadget.channels[0]!.id,
      kind: 'fault',
      unit,
    });
    await bench.call(
      'PATCH',
      `/api/gadgets/${id}`,
      { alarms: [rule] },
      { 'If-Match': `"${gadget.version}"` },
    );
    const listener = await connectAsync(address, { username: link.id, password: token! });
    const heard: { topic: string; level: string; alarm: string }[] = [];
    listener.on('message', (topic, payload) =>
      heard.push({ topic, ...(JSON.parse(payload.toString()) as { level: string; alarm: string }) }),
    );
    await listener.subscribeAsync('alarms/mill/hot');
    const stranger = await connectAsync(address, { username: other.link.id, password: other.token! });
    const overheard: string[] = [];
    stranger.on('message', (topic) => overheard.push(topic));
    await stranger.subscribeAsync('alarms/mill/hot').catch(() => undefined);
    await stranger.subscribeAsync('alarms/#').catch(() => undefined);
    let t = 0;
    // Some wait until it is certain that none comes before them.
    const many = async (p1: number) => {
      for (let k = 0; k < 20; k++)
        await listener.publishAsync('mill/hot/a', JSON.stringify({ t: t++, p1, p2: 500 }), { qos: 1 });
    };
    const level = (wanted: string) =>
      until(
        () => heard.at(-1)?.level,
        (l) => l === wanted,
      );
    await many(500);
    await level('quiet');
    await many(0);
    await level('limit');
    await many(500);
    await level('quiet');
    expect(new Set(heard.map((h) => `${h.topic} ${h.alarm}`))).toEqual(
      new Set(['alarms/mill/hot Far “off”']),
    );
    expect(overheard).toEqual([]);
    await Promise.all([listener.endAsync(), stranger.endAsync()]);
  });

  it.each([
    ['mill/kiln', 'mill/kiln', true],
    ['mill/kiln/a', 'mill/kiln', false],
    ['mill', 'mill/kiln', false],
    ['mill/a/blow', 'mill/+/blow', true],
    ['mill/a/b/blow', 'mill/+/blow', false],
    ['mill/a/b', 'mill/#', true],
    ['other', '#', true],
  ])('%s lies under %s: %s', (topic, followed, is) => {
    expect(isUnder(topic, followed)).toBe(is);
  });

  it('tells the length of a packet by its head, however the pieces are cut', () => {
    // Heads with lengths of one and of two bytes; bodies that look like heads.
    const small = [0x30, 5, 0xff, 0xff, 0xff, 0xff, 0xff];
    const large = [0x30, 0xc8, 0x01, ...Array<number>(200).fill(0xff)];
    const bytes = Uint8Array.from([...small, ...large, ...small]);
    for (const size of [1, 2, 3, 7, 500])
      for (const [most, is] of [
        [200, false],
        [199, true],
      ] as const) {
        const look = packetLimit(most);
        let tooLong = false;
        for (let i = 0; i < bytes.length && !tooLong; i += size) tooLong = look(bytes.subarray(i, i + size));
        expect([size, most, tooLong]).toEqual([size, most, is]);
      }
    expect(packetLimit(1e9)(Uint8Array.of(0x30, 0xff, 0xff, 0xff, 0xff, 0xff))).toBe(true);
  });

  it('comes through the bench’s own broker at once', async () => {
    const { address } = (await bench.call<{ address: string }>('GET', '/api/broker')).body;
    expect(address).toMatch(/^mqtt:\/\/127\.0\.0\.1:\d+$/);
    await follows(null, address);
  });

  const stock = ((): string | null => {
    try {
      return execFileSync('sh', ['-c', 'command -v mosquitto || ls /usr/sbin/mosquitto']).toString().trim();
    } catch {
      return null;
    }
  })();
  it.skipIf(stock === null)('comes through a stock broker, and again after that was away', async () => {
    const port = 21_000 + (process.pid % 5000);
    const start = (): ChildProcess => spawn(stock!, ['-p', String(port)], { stdio: 'ignore' });
    let broker = start();
    try {
      const address = `mqtt://127.0.0.1:${port}`;
      await new Promise((done) => setTimeout(done, 500));
      const { runner } = await follows(address, address);
      broker.kill();
      await until(
        () => runner.status.problem,
        (p) => p !== null,
      );
      expect(runner.status.problem).toContain(address);
      broker = start();
      await until(
        () => runner.status.problem,
        (p) => p === null,
      );
      const client = await connectAsync(address);
      await client.publishAsync('mill/kiln', JSON.stringify({ t: 30, p1: 30, p2: 2 }));
      await client.endAsync();
      await until(
        () => taken(runner).at(-1)![0],
        (v) => v === 30,
      );
    } finally {
      broker.kill();
    }
  });
});

describe('Simulated gadget', () => {
  it('breaks while it runs, is mended again, and is never told with its token or truth', async () => {
    const { id, link, runner } = await linked({ kind: 'simulated' });
    expect(JSON.stringify(link)).not.toMatch(/truth|token/);
    const patch = (faults: object) => bench.call<Link>('PATCH', `/api/gadgets/${id}/link`, { faults });
    await bench.call('PATCH', `/api/gadgets/${id}/link`, { speed: 20 });
    await patch({ dropOuts: 0.3, stuck: 'p2', noise: 0.1 });
    await until(
      () => runner.status,
      (s) => s.lost > 20 && s.badLines > 5,
    );
    const before = taken(runner).length;
    await until(
      () => taken(runner).length - before,
      (n) => n > 60,
    );
    expect(
      new Set(
        taken(runner)
          .slice(-50)
          .map((r) => r[1]),
      ).size,
    ).toBe(1);
    expect((await patch({ dropOuts: 0, stuck: null, noise: 0 })).body.faults).toMatchObject({ noise: 0 });
    expect(await patch({ dropOuts: 2, stuck: null, noise: 0 })).toMatchObject({ status: 422 });
  });

  it('is taken away and replaced by another kind, but not while it is recorded', async () => {
    const { id } = await linked({ kind: 'simulated' });
    const { body } = await bench.call<Recording>('POST', `/api/gadgets/${id}/recordings`, { name: 'x' });
    expect((await bench.call('DELETE', `/api/gadgets/${id}/link`)).status).toBe(409);
    await bench.call('POST', `/api/recordings/${body.id}/stop`);
    expect((await bench.call('DELETE', `/api/gadgets/${id}/link`)).status).toBe(204);
    // None is a state, not a failure: nobody's console is to hold it against the bench.
    expect(await bench.call('GET', `/api/gadgets/${id}/link`)).toMatchObject({ status: 200, body: null });
    expect((await bench.call('GET', '/api/gadgets/nobody/link')).status).toBe(404);
    expect((await recordingOf(bench, body.id)).state).toBe('closed');
    const other = await bench.call('POST', `/api/gadgets/${id}/link`, {
      settings: { kind: 'push' },
      mapping: null,
    });
    expect(other.status).toBe(201);
    expect(
      (await bench.call('PATCH', `/api/gadgets/${id}/link`, { settings: { kind: 'simulated' } })).status,
    ).toBe(422);
  });
});
