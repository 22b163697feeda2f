import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { connect, type AddressInfo, type Socket } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { Guesses } from '../src/http/guesses.ts';
import { limitDoor } from '../src/http/doorLimits.ts';
import type { Gadget } from '@lucky-needle/core/model';
import { LiveHub } from '../src/capture/liveHub.ts';
import { Sessions } from '../src/http/sessions.ts';
import { Share } from '../src/http/share.ts';
import { configFor, freshFolder, openBench, SIMULATED, until, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const portOf = (b: TestBench) => Number(new URL(b.server.url).port);

/** Sends bytes as they are; what comes back until the other side ends. */
function raw(port: number, bytes: string | Buffer, { reset = false } = {}): Promise<string> {
  return new Promise((resolve) => {
    const socket: Socket = connect(port, '127.0.0.1', () => {
      socket.write(bytes, () => {
        if (reset) socket.resetAndDestroy();
      });
    });
    let back = '';
    socket.on('data', (d) => (back += d.toString('latin1')));
    socket.on('error', () => resolve(back));
    socket.on('close', () => resolve(back));
  });
}

const UPGRADE = (address: string) =>
  `GET ${address} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: Upgrade\r\nUpgrade: websocket\r\n` +
  'Sec-WebSocket-Version: 13\r\nSec-WebSocket-Key: dGhlIHNhbXBsZSBub25jZQ==\r\n\r\n';

const isWell = async () => {
  expect(await bench.call('GET', '/api/health')).toMatchObject({ status: 200, body: { ok: true } });
};

describe('the door', () => {
  it.each([
    '//',
    '///',
    'http://[',
    '/api/../api/live?%',
    '/%',
    '*',
    '\u0001',
    `/api/live/${'x'.repeat(3000)}`,
  ])('refuses an upgrade to %s and goes on', async (address) => {
    expect(await raw(portOf(bench), UPGRADE(address))).toMatch(/^HTTP\/1\.1 4\d\d |^$/);
    await isWell();
  });

  it('refuses an upgrade from a foreign page or under a foreign name', async () => {
    const foreign = UPGRADE('/api/live').replace('\r\n\r\n', '\r\nOrigin: http://elsewhere.example\r\n\r\n');
    expect(await raw(portOf(bench), foreign)).toMatch(/^HTTP\/1\.1 403 /);
    expect(await raw(portOf(bench), UPGRADE('/api/live').replace('127.0.0.1', 'bench.example'))).toMatch(
      /^HTTP\/1\.1 403 /,
    );
  });

  it('asks for the passphrase on every way in, also where a path only leads there by dots', async () => {
    const locked = await openBench({ passphrase: 'twelve letters' });
    const port = portOf(locked);
    for (const address of ['/api/live', '/api/push/../live', '/api/push/x/../../live', '/api/push/x'])
      expect([address, (await raw(port, UPGRADE(address))).slice(0, 13)]).toEqual([address, 'HTTP/1.1 403 ']);
    for (const address of ['/api/push/../gadgets', '/api/push//../gadgets', '/api/gadgets', '/'])
      expect(
        await raw(port, `GET ${address} HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n`),
      ).toMatch(/^HTTP\/1\.1 401 /);
    await locked.close();
  });

  it('signs a browser in by a page, with a cookie that no script and no foreign page can use', async () => {
    const locked = await openBench({ passphrase: 'twelve letters' });
    const { url } = locked.server;
    const page = await fetch(`${url}/g/x/line?a="><script>`, { headers: { Accept: 'text/html' } });
    expect(page.status).toBe(401);
    expect(page.headers.get('www-authenticate')).toBeNull();
    const shown = await page.text();
    expect(shown).toMatch(/type="password"/);
    expect(shown).not.toContain('<script>');
    const sign = (passphrase: string, next = '/g/x/line', headers: Record<string, string> = {}) =>
      fetch(`${url}/sign-in`, {
        method: 'POST',
        redirect: 'manual',
        headers,
        body: new URLSearchParams({ passphrase, next }),
      });
    const wrong = await sign('twelve');
    expect([wrong.status, wrong.headers.get('set-cookie')]).toEqual([401, null]);
    expect(await wrong.text()).toContain('Wrong passphrase.');
    expect((await sign('twelve letters', '/', { Origin: 'http://elsewhere.example' })).status).toBe(403);
    // As browsers send the form of a page that tells nobody where it stands.
    const nameless = { Origin: 'null' };
    expect((await sign('twelve letters', '/', { ...nameless, 'Sec-Fetch-Site': 'cross-site' })).status).toBe(
      403,
    );
    expect((await sign('twelve letters', '/', nameless)).status).toBe(403);
    expect((await sign('twelve letters', '/', { ...nameless, 'Sec-Fetch-Site': 'same-origin' })).status).toBe(
      303,
    );
    for (const next of ['//elsewhere.example', 'http://elsewhere.example', '/\\elsewhere.example', ''])
      expect((await sign('twelve letters', next)).headers.get('location')).toBe('/');
    const right = await sign('twelve letters');
    expect([right.status, right.headers.get('location')]).toEqual([303, '/g/x/line']);
    const cookie = right.headers.get('set-cookie')!;
    expect(cookie).toMatch(/; HttpOnly; SameSite=Strict$/);
    const kept = cookie.split(';')[0]!;
    const asks = (value: string) => locked.call('GET', '/api/health', undefined, { Cookie: value });
    expect((await asks(kept)).status).toBe(200);
    expect((await asks(`${kept}x`)).status).toBe(401);
    const socket = new WebSocket(`${url.replace('http', 'ws')}/api/live`, { headers: { Cookie: kept } });
    await once(socket, 'open');
    socket.close();
    // It guesses on: it is held as any other way in.
    for (let i = 0; i < 6; i++) await sign('wrong');
    expect((await sign('twelve letters')).status).toBe(429);
    expect((await asks(kept)).status).toBe(200);
    await until(
      async () => (await sign('twelve letters')).status,
      (status) => status === 303,
    );
    await locked.close();
  });

  it('lets a browser in for a month, and forgets the oldest of very many', () => {
    let nowMs = 0;
    const sessions = new Sessions(() => nowMs);
    const asking = (cookie: string) => ({ headers: { cookie: `other=1; ${cookie.split(';')[0]}` } }) as never;
    const first = sessions.begin();
    expect(sessions.isKnown(asking(first))).toBe(true);
    nowMs = 30 * 86_400_000;
    expect(sessions.isKnown(asking(first))).toBe(false);
    const second = sessions.begin();
    for (let i = 0; i < 1000; i++) sessions.begin();
    expect(sessions.isKnown(asking(second))).toBe(false);
  });

  it('hears nobody for a while who guesses passphrases, longer each time', () => {
    let now = 0;
    const said: string[] = [];
    const guesses = new Guesses(
      () => now,
      (text) => said.push(text),
    );
    for (let i = 0; i < 4; i++) guesses.wrong('a');
    expect(guesses.isHeld('a')).toBe(false);
    guesses.wrong('a');
    expect([guesses.isHeld('a'), guesses.isHeld('b')]).toEqual([true, false]);
    now = 1001;
    expect(guesses.isHeld('a')).toBe(false);
    guesses.wrong('a');
    now += 1001;
    expect(guesses.isHeld('a')).toBe(true);
    expect(said).toEqual([
      '5 wrong passphrases from a: ignoring this address for 1 s.',
      '6 wrong passphrases from a: ignoring this address for 2 s.',
    ]);
    guesses.right('a');
    expect(guesses.isHeld('a')).toBe(false);
  });

  it('answers a flood of wrong passphrases with too many, on pages and sockets alike', async () => {
    const locked = await openBench({ passphrase: 'twelve letters' });
    const asks = (word: string) =>
      locked.call('GET', '/api/health', undefined, { Authorization: `Basic ${btoa(`x:${word}`)}` });
    const answers = [];
    for (let i = 0; i < 8; i++) answers.push((await asks('wrong')).status);
    expect(answers.filter((s) => s === 401).length).toBeLessThanOrEqual(5);
    expect(answers.at(-1)).toBe(429);
    // Not even the right one while it is held: a guess must not be told from another.
    expect((await asks('twelve letters')).status).toBe(429);
    expect(await raw(portOf(locked), UPGRADE('/api/live'))).toMatch(/^HTTP\/1\.1 403 /);
    await until(
      async () => (await asks('twelve letters')).status,
      (status) => status === 200,
    );
    await locked.close();
  });

  it('goes on when sockets break in the middle of a request or an upgrade', async () => {
    const port = portOf(bench);
    await Promise.all(
      Array.from({ length: 40 }, (_, i) =>
        raw(port, i % 2 ? UPGRADE('//') : 'POST /api/gadgets HTTP/1.1\r\nContent-Length: 900\r\n\r\n{"na', {
          reset: true,
        }),
      ),
    );
    await isWell();
  });

  it.each([
    ['what is no request', 'hello\r\n\r\n'],
    ['a header without end', `GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nX: ${'y'.repeat(100_000)}\r\n\r\n`],
    ['a length that is none', 'POST /api/gadgets HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: -1\r\n\r\n'],
    [
      'chunks that are none',
      'POST /api/gadgets HTTP/1.1\r\nHost: 127.0.0.1\r\nTransfer-Encoding: chunked\r\n\r\nzz\r\n',
    ],
  ])('answers %s with a refusal', async (_what, bytes) => {
    expect(await raw(portOf(bench), bytes)).toMatch(/^HTTP\/1\.1 4\d\d /);
    await isWell();
  });

  it('ends requests that never say what they want, and bodies that stand still', async () => {
    const server = createServer({ connectionsCheckingInterval: 20 }, (request, response) => {
      request.on('error', () => undefined).resume();
      request.on('end', () => response.end('ok'));
    });
    limitDoor(server, { headersMs: 100, silenceMs: 300 });
    server.listen(0, '127.0.0.1');
    await once(server, 'listening');
    const { port } = server.address() as AddressInfo;
    const half = raw(port, 'GET / HTTP/1.1\r\nHost:');
    const still = raw(port, 'POST / HTTP/1.1\r\nHost: x\r\nContent-Length: 10\r\n\r\nabc');
    expect(await half).toMatch(/^HTTP\/1\.1 408 |^$/);
    await still;
    server.close();
  });

  it('lets a page go that talks without end, and keeps the others', async () => {
    const address = `${bench.server.url.replace('http', 'ws')}/api/live`;
    const [quietPage, loud] = [new WebSocket(address), new WebSocket(address)];
    await Promise.all([once(quietPage, 'open'), once(loud, 'open')]);
    const closed = once(loud, 'close');
    for (let i = 0; i < 400; i++) loud.send('{"type":"watch","gadgetId":"x"}');
    expect((await closed)[0]).toBe(1008);
    const answer = once(quietPage, 'message');
    quietPage.send('nonsense');
    expect(String((await answer)[0])).toMatch(/refused/);
    quietPage.close();
    await isWell();
  });

  it('lets a page go that takes nothing, while its gadget is read on', async () => {
    const gadget = await bench.call<Gadget>('POST', '/api/gadgets', {
      template: 'impact-peak',
      name: 'Anvil',
    });
    await bench.call('POST', `/api/gadgets/${gadget.body.id}/link`, SIMULATED);
    await bench.call('PATCH', `/api/gadgets/${gadget.body.id}/link`, { speed: 20 });
    const server = createServer().listen(0, '127.0.0.1');
    await once(server, 'listening');
    const config = configFor(bench.dataDir);
    const hub = new LiveHub(server, bench.server.links, config, { stuckMs: 200, maxBuffered: 50_000 });
    const page = new WebSocket(`ws://127.0.0.1:${(server.address() as AddressInfo).port}/api/live`);
    await once(page, 'open');
    page.send(JSON.stringify({ type: 'watch', gadgetId: gadget.body.id }));
    await once(page, 'message');
    page.pause();
    const connections = () => new Promise((done) => server.getConnections((_error, n) => done(n)));
    await until(connections, (n) => n === 0, 60_000);
    const before = bench.server.links.of(gadget.body.id)!.live.raw.total;
    await until(
      async () => bench.server.links.of(gadget.body.id)!.live.raw.total,
      (n) => n > before,
    );
    page.terminate();
    hub.close();
    server.close();
    // Forty thousand readings a second are enough for one test.
    await bench.call('DELETE', `/api/gadgets/${gadget.body.id}/link`);
    await isWell();
  });

  it('lets a sender have its share of requests and no more, and those of others be', () => {
    let nowMs = 0;
    const share = new Share(3, 1000, () => nowMs);
    const seen = () => ['a', 'a', 'a', 'a', 'b'].map((who) => share.isUsedUp(who));
    expect(seen()).toEqual([false, false, false, true, false]);
    nowMs = 999;
    expect(share.isUsedUp('a')).toBe(true);
    nowMs = 1000;
    expect(seen()).toEqual([false, false, false, true, false]);
    for (let i = 0; i < 5000; i++) share.isUsedUp(`made up ${i}`);
    expect(share.isUsedUp('a')).toBe(false);
  });

  it('lets in so many pages and no more', async () => {
    const address = `${bench.server.url.replace('http', 'ws')}/api/live`;
    const pages = Array.from({ length: 230 }, () => new WebSocket(address));
    const outcomes = await Promise.all(
      pages.map(
        (page) =>
          new Promise<string>((done) => {
            page.on('open', () => done('in'));
            page.on('error', () => done('refused'));
          }),
      ),
    );
    expect(outcomes.filter((o) => o === 'in')).toHaveLength(200);
    await isWell();
    pages.forEach((page) => page.terminate());
    // There is room again.
    await until(async () => (await raw200(address)) === 'in', Boolean);
  });
});

const raw200 = (address: string) =>
  new Promise<string>((done) => {
    const page = new WebSocket(address);
    page.on('open', () => {
      page.terminate();
      done('in');
    });
    page.on('error', () => done('refused'));
  });

describe('a program that broke', () => {
  it('is started again after a pause that grows, and not when it ended as it should', async () => {
    const folder = freshFolder();
    const program = join(folder, 'breaks.mjs');
    writeFileSync(
      program,
      `import { existsSync, writeFileSync } from 'node:fs';
       const tries = [1, 2].find((n) => !existsSync(${JSON.stringify(folder)} + '/' + n));
       if (!tries) process.exit(3);
       writeFileSync(${JSON.stringify(folder)} + '/' + tries, '');
       if (tries === 1) process.exit(70);
       process.kill(process.pid, 'SIGKILL');`,
    );
    const keeper = join(folder, 'keeper.mjs');
    const tool = join(import.meta.dirname, '../../tools/keepRunning.mjs');
    writeFileSync(
      keeper,
      `import { keepRunning } from ${JSON.stringify(tool)};
       process.exit(await keepRunning([${JSON.stringify(program)}], { firstPauseS: 0.01 }));`,
    );
    const child = spawn(process.execPath, [keeper]);
    let said = '';
    child.stderr.on('data', (d: Buffer) => (said += d.toString()));
    const [code] = (await once(child, 'exit')) as [number];
    expect(code).toBe(3);
    expect(said.match(/started again in [\d.]+ s/g)).toEqual([
      'started again in 0.01 s',
      'started again in 0.02 s',
    ]);
  });
});
