import { execFileSync, spawn } from 'node:child_process';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { existsSync, readdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { afterEach, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { decodeSampleBlock, isReadings } from '@lucky-needle/core/formats';
import type { DamagedRow, Gadget, LogEntry, Problem, Recording } from '@lucky-needle/core/model';
import { Recorder } from '../src/capture/recorder.ts';
import { MIGRATIONS } from '../src/db/migrations.ts';
import { openDatabase } from '../src/db/open.ts';
import { tables } from '../src/db/tables.ts';
import { askPool, readChunks } from '../src/recordings/sampleStore.ts';
import { startServer } from '../src/start.ts';
import { endAll, ended, launch, program } from './program.ts';
import {
  configFor,
  freshFolder,
  openBench,
  quiet,
  recordingOf,
  until,
  type TestBench,
  SIMULATED,
} from './bench.ts';

const folders: string[] = [];
const folder = () => {
  const path = freshFolder();
  folders.push(path);
  return path;
};
afterEach(() => folders.splice(0).forEach((path) => rmSync(path, { recursive: true, force: true })));

const file = (dataDir: string) => join(dataDir, 'lucky-needle.sqlite');

async function startRecording(bench: TestBench): Promise<Recording> {
  const gadget = await bench.linkedGadget();
  const { body } = await bench.call<Recording>('POST', `/api/gadgets/${gadget.id}/recordings`, {
    name: 'Under test',
  });
  await until(
    () => recordingOf(bench, body.id),
    (r) => r.sampleCount > 100,
  );
  return body;
}

afterEach(endAll);

describe('a killed server', () => {
  it('loses at most the last second, and the next start closes the recording and says so', async () => {
    const dataDir = folder();
    const first = await launch(dataDir);
    const post = async <T>(path: string, body?: object, method = 'POST') =>
      (await (
        await fetch(first.url + path, {
          method,
          headers: { 'Content-Type': 'application/json' },
          ...(body ? { body: JSON.stringify(body) } : {}),
        })
      ).json()) as T;
    const gadget = await post<Gadget>('/api/gadgets', { template: 'several-temperatures', name: 'Probes' });
    await post(`/api/gadgets/${gadget.id}/link`, SIMULATED);
    await post(`/api/gadgets/${gadget.id}/link`, { speed: 20 }, 'PATCH');
    const recording = await post<Recording>(`/api/gadgets/${gadget.id}/recordings`, { name: 'Night run' });

    // What a page would have been shown as it arrived, up to the kill.
    const socket = new WebSocket(`${first.url.replace('http', 'ws')}/api/live`);
    socket.binaryType = 'arraybuffer';
    let newestS = 0;
    socket.onmessage = (event) => {
      if (event.data instanceof ArrayBuffer && !isReadings(event.data))
        newestS = decodeSampleBlock(event.data).times.at(-1) ?? newestS;
    };
    socket.onopen = () => socket.send(JSON.stringify({ type: 'watch', gadgetId: gadget.id }));
    await new Promise((done) => setTimeout(done, 2600));
    first.child.kill('SIGKILL');
    await ended(first.child);

    const second = await launch(dataDir);
    expect(second.said()).toContain('Run "Night run" was still open');
    const closed = (await (await fetch(`${second.url}/api/recordings/${recording.id}`)).json()) as Recording;
    expect(closed.state).toBe('recovered');
    // Twenty simulated seconds pass in a real one.
    expect(closed.lastTimeS!).toBeGreaterThan(newestS - 20);
    const block = decodeSampleBlock(
      await (await fetch(`${second.url}/api/recordings/${recording.id}/window`)).arrayBuffer(),
    );
    expect(block.header.count).toBe(closed.sampleCount);
    expect(closed.sampleCount).toBeGreaterThan(200);
    const log = (await (await fetch(`${second.url}/api/gadgets/${gadget.id}/logbook`)).json()) as {
      items: LogEntry[];
    };
    expect(log.items[0]!.text).toMatch(
      /"Night run" was closed when the server restarted.*at most the last second may be missing/,
    );
    second.child.kill('SIGTERM');
    await ended(second.child);
  });

  it('ends with a message and no trace of a crash when it cannot start', async () => {
    const child = spawn(process.execPath, [await program()], {
      env: { ...process.env, LUCKY_NEEDLE_DATA: folder(), PORT: 'x' },
    });
    let said = '';
    child.stderr.on('data', (d) => (said += d));
    const code = await ended(child);
    expect(code).toBe(1);
    expect(said).toMatch(/^Lucky Needle could not start: PORT must be/);
    expect(said).not.toContain('    at ');
  });
});

describe('a data folder that cannot be used', () => {
  it('is refused when another server has it, and free again after', async () => {
    const dataDir = folder();
    const first = await openBench({}, { dataDir });
    await expect(startServer(configFor(dataDir), { log: quiet })).rejects.toThrow(
      /Another Lucky Needle server is using/,
    );
    await first.close();
    await (await startServer(configFor(dataDir), { log: quiet })).close();
  });

  it('is refused untouched when a newer version wrote it', async () => {
    const dataDir = folder();
    await (await openBench({}, { dataDir })).close();
    const database = new Database(file(dataDir));
    database.pragma(`user_version = ${MIGRATIONS.length + 1}`);
    database.close();
    await expect(startServer(configFor(dataDir), { log: quiet })).rejects.toThrow(
      /newer Lucky Needle.*Nothing was changed/,
    );
    expect(new Database(file(dataDir)).pragma('user_version', { simple: true })).toBe(MIGRATIONS.length + 1);
  });

  it('is backed up before a migration', async () => {
    const dataDir = folder();
    new Database(file(dataDir)).exec('CREATE TABLE keepsake (x); PRAGMA user_version = 0').close();
    await (await openBench({}, { dataDir })).close();
    const copy = `${file(dataDir)}.before-1`;
    expect(existsSync(copy)).toBe(true);
    expect(new Database(copy).prepare('SELECT name FROM sqlite_master').all()).toEqual([
      { name: 'keepsake' },
    ]);
  });

  it('is refused when it is no database, or cannot be made', async () => {
    const dataDir = folder();
    writeFileSync(file(dataDir), 'not a database at all, only text'.repeat(50));
    await expect(startServer(configFor(dataDir), { log: quiet })).rejects.toThrow(
      /is not a readable database/,
    );
    await expect(startServer(configFor('/proc/nowhere'), { log: quiet })).rejects.toThrow(
      /Cannot use the data folder/,
    );
  });
});

describe('a taken port', () => {
  it('is a clear message', async () => {
    const other = createServer();
    await new Promise<void>((done) => other.listen(0, '127.0.0.1', done));
    const { port } = other.address() as AddressInfo;
    const dataDir = folder();
    await expect(startServer(configFor(dataDir, { port }), { log: quiet })).rejects.toThrow(
      /Port \d+ on 127.0.0.1 is already in use.*set PORT/,
    );
    other.close();
    // The folder was let go of, too.
    await (await startServer(configFor(dataDir), { log: quiet })).close();
  });
});

describe('while recording', () => {
  const status = async (bench: TestBench, gadgetId: string) => {
    const socket = new WebSocket(`${bench.server.url.replace('http', 'ws')}/api/live`);
    const problem = await new Promise<string | null>((resolve) => {
      socket.onopen = () => socket.send(JSON.stringify({ type: 'watch', gadgetId }));
      socket.onmessage = (event) => {
        if (typeof event.data !== 'string') return;
        const message = JSON.parse(event.data) as {
          type: string;
          status?: { recording: { problem: string | null } | null };
        };
        if (message.type === 'status') resolve(message.status!.recording?.problem ?? null);
      };
    });
    socket.close();
    return problem;
  };

  async function survives(
    bench: TestBench,
    recording: Recording,
    hinder: () => () => void,
    says: RegExp,
  ): Promise<void> {
    const release = hinder();
    await until(
      () => status(bench, recording.gadgetId),
      (p) => p !== null && says.test(p),
    );
    const refused = await bench.call('POST', `/api/recordings/${recording.id}/stop`);
    expect(refused.status).toBe(503);
    release();
    await until(
      () => status(bench, recording.gadgetId),
      (p) => p === null,
    );
    const closed = (await bench.call<Recording>('POST', `/api/recordings/${recording.id}/stop`)).body;
    const response = await fetch(`${bench.server.url}/api/recordings/${recording.id}/window`);
    const { times } = decodeSampleBlock(await response.arrayBuffer());
    expect(closed).toMatchObject({ state: 'closed', sampleCount: times.length, lostReadings: 0, issues: [] });
    expect(times.every((t, i) => i === 0 || Math.abs(t - times[i - 1]! - 0.1) < 1e-9)).toBe(true);
  }

  it('a database locked by another program stops nothing and loses nothing', async () => {
    const bench = await openBench();
    const recording = await startRecording(bench);
    await survives(
      bench,
      recording,
      () => {
        const other = new Database(file(bench.dataDir));
        other.exec('BEGIN IMMEDIATE');
        return () => {
          other.exec('ROLLBACK');
          other.close();
        };
      },
      /Another program is using the database.*readings are waiting in memory/,
    );
    await bench.close();
  });

  it('a full disk is said at once, and nothing is lost when room is made', async () => {
    const bench = await openBench();
    const gadget = await bench.linkedGadget();
    const { body: closed } = await bench.call<Recording>('POST', `/api/gadgets/${gadget.id}/recordings`, {
      name: 'Full',
    });
    await bench.call('POST', `/api/recordings/${closed.id}/stop`);
    await bench.server.close();

    // SQLite's own page limit stands in for the disk's end: both come as SQLITE_FULL.
    const database = await openDatabase(bench.dataDir);
    const repositories = tables(database.knex);
    await database.knex('chunks').where({ recording_id: closed.id }).delete();
    const recorder = new Recorder(database.knex, repositories, closed);
    const limit = (pages: number) => database.knex.raw(`PRAGMA max_page_count = ${pages}`);
    await limit(1);
    for (let i = 1; i <= 10_000; i++) recorder.append(i / 10, [i, i, i, i]);
    await recorder.commit();
    expect(recorder.problem).toMatch(
      /not enough disk space.*Free some space.*10000 readings are waiting in memory/,
    );
    const refused = expect(recorder.stop()).rejects.toThrow(/Cannot stop the run.*not enough disk space/);
    // What comes while it is tried is in its place again.
    for (let i = 10_001; i <= 10_020; i++) recorder.append(i / 10, [i, i, i, i]);
    await refused;
    for (let i = 10_021; i <= 10_050; i++) recorder.append(i / 10, [i, i, i, i]);
    await limit(1_000_000);
    const stopping = recorder.stop();
    // What comes while it is closed lies behind its end.
    for (let i = 10_051; i <= 10_060; i++) recorder.append(i / 10, [i, i, i, i]);
    const stored = await stopping;
    await recorder.commit();
    expect(recorder.problem).toBeNull();
    expect(stored).toMatchObject({
      state: 'closed',
      sampleCount: 10_050,
      firstTimeS: 0.1,
      lastTimeS: 1005,
      lostReadings: 0,
    });
    let next = 1;
    for await (const chunk of readChunks(askPool(database.knex), closed.id, 4))
      for (const v of chunk.columns[3]!) expect(v).toBe(next++);
    expect(next).toBe(10_051);
    await database.close();
  });
});

describe.skipIf(!canMount())('a disk that is full', () => {
  const disk = (kb: number) => {
    const path = freshFolder();
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${kb}k`, 'tmpfs', path]);
    return { path, leave: () => execFileSync('umount', [path]) };
  };
  const start = (dataDir: string) => startServer(configFor(dataDir), { log: quiet });

  it('at the first start is said in words, with the way out', async () => {
    const { path, leave } = disk(64);
    try {
      writeFileSync(join(path, 'much'), Buffer.alloc(60_000));
      await expect(start(path)).rejects.toThrow(/The disk with .* is full\. Free some space and start again/);
      rmSync(join(path, 'much'));
    } finally {
      leave();
    }
  });

  it('before a migration is said, leaves no half copy, and the database as it was', async () => {
    const { path, leave } = disk(8000);
    const file = join(path, 'lucky-needle.sqlite');
    try {
      await (await start(path)).close();
      const database = new Database(file);
      database.pragma(`user_version = ${MIGRATIONS.length - 1}`);
      database.exec('CREATE TABLE filler (x BLOB); INSERT INTO filler VALUES (zeroblob(3500000))');
      database.close();
      writeFileSync(join(path, 'much'), Buffer.alloc(2_000_000));
      await expect(start(path)).rejects.toThrow(/The disk with .* is full/);
      expect(readdirSync(path).filter((name) => name.includes('before'))).toEqual([]);
      const kept = new Database(file);
      expect(kept.prepare('SELECT length(x) AS n FROM filler').get()).toEqual({ n: 3_500_000 });
      kept.close();
    } finally {
      leave();
    }
  });
});

describe.skipIf(!canMount())('a disk with no room for a copy', () => {
  it('refuses a backup in words, leaves nothing half, and goes on', async () => {
    const path = freshFolder();
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=12000k', 'tmpfs', path]);
    try {
      const bench = await openBench({}, { dataDir: path });
      try {
        const noCopies = () =>
          until(
            () => readdirSync(join(path, 'backups')),
            (names) => names.length === 0,
          );
        const gadget = await bench.linkedGadget();
        const whole = await fetch(`${bench.server.url}/api/workspace/backup`);
        expect(whole.status).toBe(200);
        const backup = Buffer.from(await whole.arrayBuffer());
        await noCopies();
        writeFileSync(join(path, 'much'), Buffer.alloc(freeOn(path) - 60_000));

        const refused = await bench.call<Problem>('GET', '/api/workspace/backup');
        expect(refused.status).toBe(507);
        expect(refused.body).toMatchObject({ code: 'disk-full' });
        expect(refused.body.wayOut).toMatch(/Free some space/);
        await noCopies();

        // A restore wants room as well: for what is sent, and for what is set aside.
        const restored = await fetch(`${bench.server.url}/api/workspace/restore`, {
          method: 'POST',
          body: backup,
        });
        expect(restored.status).toBe(507);
        expect(((await restored.json()) as Problem).detail).toMatch(/Restoring it needs twice that|no room/);
        await noCopies();
        expect((await bench.call<Gadget>('GET', `/api/gadgets/${gadget.id}`)).body.id).toBe(gadget.id);

        rmSync(join(path, 'much'));
        expect((await fetch(`${bench.server.url}/api/workspace/backup`)).status).toBe(200);
      } finally {
        await bench.close();
      }
    } finally {
      // A read that was under way may still hold it.
      execFileSync('umount', ['--lazy', path]);
    }
  });
});

const freeOn = (path: string) => {
  const { bavail, bsize } = statfsSync(path);
  return bavail * bsize;
};

/** Whether a small disk can be had: only where tests may mount one. */
function canMount(): boolean {
  const path = freshFolder();
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k', 'tmpfs', path], { stdio: 'ignore' });
    execFileSync('umount', [path]);
    return true;
  } catch {
    return false;
  } finally {
    rmSync(path, { recursive: true, force: true });
  }
}

describe('what a killed server left half done', () => {
  it.each([
    ['this version', 'Importing…'],
    ['an older version', 'Being imported.'],
  ])('of an import by %s is removed, and the logbook says so', async (_version, note) => {
    const dataDir = freshFolder();
    const bench = await openBench({}, { dataDir });
    const gadget = await bench.linkedGadget();
    const whole = await bench.call<Recording>(
      'POST',
      `/api/gadgets/${gadget.id}/recordings/import?name=whole`,
      'time [s],p1\n0,1\n1,2\n',
      { 'Content-Type': 'text/csv' },
    );
    expect(whole.status).toBe(201);
    const { knex } = bench.server;
    const row = (await knex('recordings').where({ id: whole.body.id }).first()) as object;
    const half = {
      ...row,
      id: 'half',
      name: 'half',
      state: 'recording',
      note,
      sample_count: 0,
    };
    await knex('recordings').insert(half);
    const chunk = (await knex('chunks').where({ recording_id: whole.body.id }).first()) as object;
    await knex('chunks').insert({ ...chunk, recording_id: 'half' });
    await bench.close();

    const again = await openBench({}, { dataDir });
    expect(again.server.recovered).toEqual([]);
    const runs = await again.call<{ items: Recording[] }>('GET', `/api/gadgets/${gadget.id}/recordings`);
    expect(runs.body.items.map((r) => r.name)).toEqual(['whole']);
    expect(await again.server.knex('chunks').where({ recording_id: 'half' })).toEqual([]);
    const log = await again.call<{ items: LogEntry[] }>('GET', `/api/gadgets/${gadget.id}/logbook`);
    expect(log.body.items[0]!.text).toMatch(/^Import of "half" was interrupted.*Nothing was stored/);
    await again.close();
  });

  it('of the demo mill is let in whole, beside what a maker began meanwhile', async () => {
    const dataDir = freshFolder();
    const bench = await openBench({}, { dataDir });
    const own = await bench.linkedGadget();
    const half = await bench.linkedGadget();
    const mine = await bench.linkedGadget();
    await bench.server
      .knex('gadgets')
      .where({ id: half.id })
      .update({
        place: JSON.stringify({ name: 'Quillmere Mill, kiln loft', elevationM: 0, pressureHpa: null }),
      });
    await bench.close();
    writeFileSync(join(dataDir, 'mill-being-loaded.json'), JSON.stringify([own.id]));
    for (const starts of [1, 2]) {
      const again = await openBench({}, { dataDir });
      const ids = (await again.call<{ items: Gadget[] }>('GET', '/api/gadgets?limit=100')).body.items.map(
        (g) => g.id,
      );
      expect([starts, ids.length]).toEqual([starts, 16]);
      expect(ids).toContain(own.id);
      expect(ids).toContain(mine.id);
      expect(ids).not.toContain(half.id);
      await again.close();
    }
  });
});

describe('a damaged row', () => {
  it('hides no other, is shown with the reason, taken out as it is, and deleted', async () => {
    const dataDir = freshFolder();
    const bench = await openBench({}, { dataDir });
    const gadget = await bench.linkedGadget();
    const others = await bench.linkedGadget();
    const { knex } = bench.server;
    const named = async (name: string) => {
      const made = await bench.call<Recording>('POST', `/api/gadgets/${gadget.id}/recordings`, { name });
      await until(
        () => knex('recordings').where({ id: made.body.id }).first('sample_count'),
        (row: { sample_count: number }) => row.sample_count > 0,
      );
      await bench.call('POST', `/api/recordings/${made.body.id}/stop`);
      return made.body.id;
    };
    const [bad, good] = [await named('bad'), await named('good')];
    await knex('recordings').where({ id: bad }).update({ columns: '{"half', sample_rate_hz: -1 });
    await knex('logbook').insert({ id: 'log', gadget_id: gadget.id, at: 'once', step: 'runs', text: 'x' });
    await knex('gadgets').where({ id: others.id }).update({ channels: '[{"id":1}]' });

    const runs = await bench.call<{ items: Recording[] }>('GET', `/api/gadgets/${gadget.id}/recordings`);
    expect(runs.body.items.map((r) => r.id)).toEqual([good]);
    expect((await bench.call('GET', `/api/gadgets/${gadget.id}/logbook`)).status).toBe(200);
    const gadgets = await bench.call<{ items: Gadget[] }>('GET', '/api/gadgets');
    expect(gadgets.body.items.map((g) => g.id)).toEqual([gadget.id]);
    expect(await bench.call('GET', `/api/recordings/${bad}`)).toMatchObject({
      status: 409,
      body: { code: 'damaged-row' },
    });
    const damaged = await bench.call<{ items: DamagedRow[] }>('GET', '/api/damaged');
    expect(damaged.body.items.map((d) => [d.what, d.gadgetId, d.name])).toEqual([
      ['gadget', others.id, 'Test probes'],
      ['recording', gadget.id, 'bad'],
      ['logbook entry', gadget.id, 'log'],
    ]);
    expect(damaged.body.items.every((d) => d.why.length > 5)).toBe(true);
    const out = await bench.call<object>('GET', `/api/damaged/recordings/${bad}`);
    expect(out.body).toMatchObject({ name: 'bad', columns: '{"half' });
    // A sound one is none of these, and no table is but those of rows.
    for (const path of [`recordings/${good}`, 'sqlite_master/1', `recordings/${bad}x`])
      expect((await bench.call('DELETE', `/api/damaged/${path}`)).status).toBe(404);
    expect((await bench.call('DELETE', `/api/damaged/recordings/${bad}`)).status).toBe(204);
    expect(await knex('chunks').where({ recording_id: bad })).toEqual([]);
    await bench.close();

    // With rows damaged, the next start is a start as any.
    const again = await openBench({}, { dataDir });
    expect((await again.call<{ items: DamagedRow[] }>('GET', '/api/damaged')).body.items).toHaveLength(2);
    expect((await again.call('DELETE', `/api/damaged/gadgets/${others.id}`)).status).toBe(204);
    await again.close();
  });
});

describe('a damaged chunk', () => {
  it('is noticed by its checksum and named', async () => {
    const dataDir = folder();
    const bench = await openBench({}, { dataDir });
    const recording = await startRecording(bench);
    await bench.call('POST', `/api/recordings/${recording.id}/stop`);
    const other = new Database(file(dataDir));
    other.prepare('UPDATE chunks SET samples = zeroblob(length(samples)) WHERE seq = 0').run();
    other.close();
    const answer = await bench.call('GET', `/api/recordings/${recording.id}/window`);
    expect(answer).toMatchObject({
      status: 500,
      body: { code: 'chunk-damaged', detail: expect.stringContaining('Data block 0') },
    });
    await bench.close();
  });
});
