import { existsSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { decodeSampleBlock, isReadings } from '@lucky-needle/core/formats';
import type { Gadget, MadeLink, PushAnswer, Recording, ServerMessage } from '@lucky-needle/core/model';
import { seededRandom } from '@lucky-needle/core/numerics';
import { freshFolder, openBench, recordingOf, SIMULATED, until } from './bench.ts';
import { ask, endAll, ended, launch } from './program.ts';

const folders: string[] = [];
afterEach(() => {
  endAll();
  for (const path of folders.splice(0)) rmSync(path, { recursive: true, force: true });
});
const folder = () => {
  const path = freshFolder();
  folders.push(path);
  return path;
};

/** `npm run endurance` takes the whole of it; the tests of every day a slice. */
const WHOLE = process.env['ENDURANCE'] === 'whole';
const ROUNDS = WHOLE ? 10 : 1;
const AT_ONCE = 5;
const GADGETS = WHOLE ? 200 : 30;
const READINGS = WHOLE ? 600 : 40;

/** What the console promises of gadgets on the network. */
const PROMISED_MS = 2000;

describe('recordings, five at once', () => {
  it(
    'killed at any moment lose nothing that is older than a second, and none is damaged',
    { timeout: 600_000 },
    async () => {
      const dataDir = folder();
      const random = seededRandom(50);
      let program = await launch(dataDir);
      const gadgets: string[] = [];
      for (let i = 0; i < AT_ONCE; i++) {
        const { id } = await ask<Gadget>(`${program.url}/api/gadgets`, 'POST', {
          template: 'several-temperatures',
          name: `Probes ${i}`,
        });
        await ask(`${program.url}/api/gadgets/${id}/link`, 'POST', SIMULATED);
        gadgets.push(id);
      }
      for (let round = 0; round < ROUNDS; round++) {
        const runs = await Promise.all(
          gadgets.map((id) =>
            ask<Recording>(`${program.url}/api/gadgets/${id}/recordings`, 'POST', { name: `round ${round}` }),
          ),
        );
        // What a page was shown, with when it was.
        const shown = await Promise.all(gadgets.map((id) => watch(program.url, id)));
        await new Promise((done) => setTimeout(done, 1100 + 900 * random.uniform()));
        program.child.kill('SIGKILL');
        const killedAt = performance.now();
        await ended(program.child);
        program = await launch(dataDir);
        for (const [i, run] of runs.entries()) {
          const closed = await ask<Recording>(`${program.url}/api/recordings/${run.id}`);
          expect(closed.state).toBe('recovered');
          const answer = await fetch(`${program.url}/api/recordings/${run.id}/window`);
          const { times, columns } = decodeSampleBlock(await answer.arrayBuffer());
          expect(times.length).toBe(closed.sampleCount);
          expect(times.every((t, k) => k === 0 || Math.abs(t - times[k - 1]! - 0.1) < 1e-6)).toBe(true);
          expect(columns.every((c) => c.every((v) => Number.isInteger(v) && v >= 0 && v <= 1023))).toBe(true);
          const old = shown[i]!.filter((s) => killedAt - s.atMs > 1000).map((s) => s.timeS);
          if (old.length > 0 && old.at(-1)! >= (times[0] ?? 0))
            expect(times.at(-1)!).toBeGreaterThanOrEqual(old.at(-1)!);
        }
      }
    },
  );

  async function watch(url: string, gadgetId: string): Promise<{ timeS: number; atMs: number }[]> {
    const seen: { timeS: number; atMs: number }[] = [];
    const socket = new WebSocket(`${url.replace('http', 'ws')}/api/live`);
    socket.binaryType = 'arraybuffer';
    socket.on('error', () => undefined);
    socket.onmessage = (event) => {
      if (!(event.data instanceof ArrayBuffer) || isReadings(event.data)) return;
      const newest = decodeSampleBlock(event.data).times.at(-1);
      if (newest !== undefined) seen.push({ timeS: newest, atMs: performance.now() });
    };
    await new Promise((done) => (socket.onopen = done));
    socket.send(JSON.stringify({ type: 'watch', gadgetId }));
    return seen;
  }
});

describe('gadgets that push, five at once', () => {
  it(
    'lose nothing that was answered longer ago than is promised, whenever the server is killed',
    { timeout: 600_000 },
    async () => {
      const dataDir = folder();
      const random = seededRandom(51);
      let program = await launch(dataDir);
      const links: MadeLink[] = [];
      for (let i = 0; i < AT_ONCE; i++) {
        const { id } = await ask<Gadget>(`${program.url}/api/gadgets`, 'POST', {
          template: 'several-temperatures',
          name: `Pushing ${i}`,
        });
        links.push(
          await ask<MadeLink>(`${program.url}/api/gadgets/${id}/link`, 'POST', {
            settings: { kind: 'push' },
            mapping: null,
          }),
        );
      }
      for (let round = 0; round < ROUNDS; round++) {
        const runs = await Promise.all(
          links.map(({ link }) =>
            ask<Recording>(`${program.url}/api/gadgets/${link.gadgetId}/recordings`, 'POST', {
              name: 'pushed',
            }),
          ),
        );
        let isOver = false;
        // When each reading was answered, by its number.
        const answered = links.map(() => new Map<number, number>());
        const pushing = links.map(async ({ link, token }, i) => {
          for (let n = 0; !isOver; n++) {
            const answer = await fetch(`${program.url}/api/push/${link.id}`, {
              method: 'POST',
              headers: { 'Content-Type': 'application/json', Authorization: `Bearer ${token}` },
              body: JSON.stringify({ t: 1000 * round + n / 20, seq: 100_000 * round + n, values: { p1: n } }),
            }).then(
              (r) => r.json() as Promise<PushAnswer>,
              () => null,
            );
            if (answer?.accepted === 1) answered[i]!.set(n, performance.now());
            await new Promise((done) => setTimeout(done, 50));
          }
        });
        await new Promise((done) => setTimeout(done, 2600 + 1500 * random.uniform()));
        program.child.kill('SIGKILL');
        const killedAt = performance.now();
        isOver = true;
        await Promise.all([ended(program.child), ...pushing]);
        program = await launch(dataDir);
        for (const [i, run] of runs.entries()) {
          const answer = await fetch(`${program.url}/api/recordings/${run.id}/window`);
          const { columns } = decodeSampleBlock(await answer.arrayBuffer());
          const kept = new Set(columns[0]!);
          const old = [...answered[i]!].filter(([, atMs]) => killedAt - atMs > PROMISED_MS).map(([n]) => n);
          expect(old.length).toBeGreaterThan(0);
          expect(old.filter((n) => !kept.has(n))).toEqual([]);
        }
      }
    },
  );
});

describe('many gadgets at once', () => {
  it('are recorded, and none loses a reading', { timeout: 600_000 }, async () => {
    const program = await launch(folder());
    const ids: string[] = [];
    for (let i = 0; i < GADGETS; i++) {
      const { id } = await ask<Gadget>(`${program.url}/api/gadgets`, 'POST', {
        template: 'several-temperatures',
        name: `Probes ${i}`,
      });
      await ask(`${program.url}/api/gadgets/${id}/link`, 'POST', SIMULATED);
      ids.push(id);
    }
    const runs: Recording[] = [];
    for (const id of ids)
      runs.push(
        await ask<Recording>(`${program.url}/api/gadgets/${id}/recordings`, 'POST', { name: 'minute' }),
      );
    await until(
      () => ask<Recording>(`${program.url}/api/recordings/${runs.at(-1)!.id}`),
      (run) => run.sampleCount >= READINGS,
      120,
    );
    for (const run of runs) {
      const closed = await ask<Recording>(`${program.url}/api/recordings/${run.id}/stop`, 'POST');
      expect(closed).toMatchObject({ state: 'closed', lostReadings: 0, issues: [] });
      expect(closed.sampleCount).toBeGreaterThan(READINGS - 10);
      const spanS = closed.lastTimeS! - closed.firstTimeS!;
      expect(Math.round(spanS * 10) + 1).toBe(closed.sampleCount);
    }
  });
});

describe('while recording', () => {
  const problem = (bench: Awaited<ReturnType<typeof openBench>>, id: string) =>
    bench.server.links.of(id)!.status.recording?.problem ?? null;
  async function running() {
    const bench = await openBench();
    const gadget = await bench.linkedGadget();
    const { body } = await bench.call<Recording>('POST', `/api/gadgets/${gadget.id}/recordings`, {
      name: 'x',
    });
    await until(
      () => recordingOf(bench, body.id),
      (r) => r.sampleCount > 50,
    );
    return { bench, gadget, run: body };
  }

  it('a database that may no longer be written stops nothing and loses nothing', async () => {
    const { bench, gadget, run } = await running();
    await bench.server.knex.raw('PRAGMA query_only = 1');
    await until(
      () => problem(bench, gadget.id),
      (p) => p !== null,
    );
    expect(problem(bench, gadget.id)).toMatch(/SQLITE_READONLY.*is writable.*readings are waiting in memory/);
    expect((await bench.call('PATCH', `/api/recordings/${run.id}`, { note: 'x' })).status).toBe(503);
    await bench.server.knex.raw('PRAGMA query_only = 0');
    await until(
      () => problem(bench, gadget.id),
      (p) => p === null,
    );
    const { body } = await bench.call<Recording>('POST', `/api/recordings/${run.id}/stop`);
    expect(body).toMatchObject({ state: 'closed', lostReadings: 0, issues: [] });
    await bench.close();
  });

  it('a database that was moved away is told of at once, and all of it is in the moved file', async () => {
    const { bench, gadget, run } = await running();
    const path = join(bench.dataDir, 'lucky-needle.sqlite');
    renameSync(path, `${path}.moved`);
    await until(
      () => problem(bench, gadget.id),
      (p) => p !== null,
    );
    expect(problem(bench, gadget.id)).toMatch(
      /lucky-needle\.sqlite was moved or deleted.*Move it back to this folder/,
    );
    renameSync(`${path}.moved`, path);
    await until(
      () => problem(bench, gadget.id),
      (p) => p === null,
    );
    const { body } = await bench.call<Recording>('POST', `/api/recordings/${run.id}/stop`);
    expect(body).toMatchObject({ state: 'closed', lostReadings: 0 });
    expect(existsSync(path)).toBe(true);
    await bench.close();
  });

  it('a clock that is set back an hour changes neither the samples nor the length', async () => {
    let backS = 0;
    const bench = await openBench({}, { now: () => new Date(Date.now() - 1000 * backS).toISOString() });
    const gadget = await bench.linkedGadget();
    const { body: run } = await bench.call<Recording>('POST', `/api/gadgets/${gadget.id}/recordings`, {
      name: 'x',
    });
    await until(
      () => recordingOf(bench, run.id),
      (r) => r.sampleCount > 50,
    );
    backS = 3600;
    const before = (await recordingOf(bench, run.id)).sampleCount;
    await until(
      () => recordingOf(bench, run.id),
      (r) => r.sampleCount > before + 50,
    );
    const { body } = await bench.call<Recording>('POST', `/api/recordings/${run.id}/stop`);
    expect(body).toMatchObject({ state: 'closed', lostReadings: 0, issues: [] });
    const lengthS = (Date.parse(body.endedAt!) - Date.parse(body.startedAt)) / 1000;
    expect(lengthS).toBeGreaterThan(0);
    expect(lengthS).toBeLessThan(60);
    await bench.close();
  });

  it('a page that watches goes on after the server was away', async () => {
    const dataDir = folder();
    const first = await launch(dataDir);
    const { port } = new URL(first.url);
    const gadget = await ask<Gadget>(`${first.url}/api/gadgets`, 'POST', {
      template: 'several-temperatures',
      name: 'Probes',
    });
    await ask(`${first.url}/api/gadgets/${gadget.id}/link`, 'POST', SIMULATED);
    first.child.kill('SIGTERM');
    await ended(first.child);
    const second = await launch(dataDir, { PORT: port });
    const socket = new WebSocket(`${second.url.replace('http', 'ws')}/api/live`);
    const status = new Promise<ServerMessage>((done) => {
      socket.on('message', (data, binary) => {
        if (!binary) done(JSON.parse(String(data)) as ServerMessage);
      });
    });
    await new Promise((done) => (socket.onopen = done));
    socket.send(JSON.stringify({ type: 'watch', gadgetId: gadget.id }));
    expect(await status).toMatchObject({ type: 'status', gadgetId: gadget.id });
    socket.close();
  });
});
