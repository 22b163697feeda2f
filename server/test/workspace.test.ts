import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { afterEach, describe, expect, it } from 'vitest';
import { decodeSampleBlock } from '@lucky-needle/core/formats';
import type { Calibration, Gadget, Problem, Recording } from '@lucky-needle/core/model';
import { openBench, recordingOf, until, type TestBench } from './bench.ts';

const benches: TestBench[] = [];
const open = async (demo = false) => {
  const bench = await openBench({}, { demo });
  benches.push(bench);
  return bench;
};
afterEach(async () => {
  for (const bench of benches.splice(0)) await bench.close();
});

const backup = async (bench: TestBench) => {
  const response = await fetch(`${bench.server.url}/api/workspace/backup`);
  expect(response.headers.get('content-disposition')).toMatch(/lucky-needle-\d{4}-\d\d-\d\d\.zip/);
  return new Uint8Array(await response.arrayBuffer());
};
async function restore(bench: TestBench, file: Uint8Array) {
  const response = await fetch(`${bench.server.url}/api/workspace/restore`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/zip' },
    body: file as never,
  });
  return { status: response.status, body: (await response.json()) as { setAside: string } & Problem };
}
const gadgets = async (bench: TestBench) =>
  (await bench.call<{ items: Gadget[] }>('GET', '/api/gadgets?limit=100')).body.items;
const leftovers = (bench: TestBench) =>
  existsSync(join(bench.dataDir, 'backups')) ? readdirSync(join(bench.dataDir, 'backups')) : [];

describe('a backup', () => {
  it('made while recording goes on is whole, and brings everything back elsewhere', async () => {
    const from = await open(true);
    const [kiln] = await gadgets(from);
    await from.call('PATCH', `/api/gadgets/${kiln!.id}/link`, { speed: 20 });
    const { body: run } = await from.call<Recording>('POST', `/api/gadgets/${kiln!.id}/recordings`, {
      name: 'meanwhile',
    });
    await until(
      () => recordingOf(from, run.id),
      (r) => r.sampleCount > 200,
    );
    const file = await backup(from);
    const during = (await recordingOf(from, run.id)).sampleCount;
    await until(
      () => recordingOf(from, run.id),
      (r) => r.sampleCount > during + 100,
    );
    const stopped = (await from.call<Recording>('POST', `/api/recordings/${run.id}/stop`)).body;
    expect(stopped.lostReadings).toBe(0);
    expect(leftovers(from)).toEqual([]);

    const to = await open();
    await to.call('POST', '/api/gadgets', { template: 'empty', name: 'Was here before' });
    const answer = await restore(to, file);
    expect(answer).toMatchObject({
      status: 200,
      body: { setAside: expect.stringContaining('before-restore') },
    });
    expect(existsSync(answer.body.setAside)).toBe(true);
    expect((await gadgets(to)).map((g) => g.name)).toEqual((await gadgets(from)).map((g) => g.name));
    const samples = async (bench: TestBench, id: string) =>
      decodeSampleBlock(await (await fetch(`${bench.server.url}/api/recordings/${id}/window`)).arrayBuffer());
    const [there, here] = [await samples(to, run.id), await samples(from, run.id)];
    expect(there.times.length).toBeGreaterThanOrEqual(200);
    expect(here.times.subarray(0, there.times.length)).toEqual(there.times);
    expect((await recordingOf(to, run.id)).state).toBe('recovered');
    const versions = await to.call<{ items: Calibration[] }>('GET', `/api/gadgets/${kiln!.id}/calibrations`);
    expect(versions.body.items).toHaveLength(1);
    // Its links run again, and what was being recorded when the copy was made can be read.
    await until(
      () => to.server.links.of(kiln!.id)!.status.state,
      (s) => s === 'up',
    );
    expect(leftovers(to)).toEqual([]);
  });

  it('is refused when it is damaged, of another kind, newer, or holds what it should not', async () => {
    const bench = await open();
    await bench.call('POST', '/api/gadgets', { template: 'empty', name: 'Mine' });
    const files = unzipSync(await backup(bench));
    const manifest = JSON.parse(strFromU8(files['manifest.json']!)) as object;
    const zipped = (change: Record<string, Uint8Array>, facts: object = {}) =>
      zipSync({ ...files, 'manifest.json': strToU8(JSON.stringify({ ...manifest, ...facts })), ...change });
    const broken = files['workspace.sqlite']!.slice();
    broken[5000] = broken[5000]! ^ 255;
    for (const [file, told] of [
      [strToU8('no zip at all'), /not a zip file/],
      [zipped({ 'workspace.sqlite': broken }), /does not match its checksum/],
      [zipped({}, { form: 'else' }), /The manifest is not that of a Lucky Needle backup/],
      [zipped({}, { version: 99 }), /made by a newer Lucky Needle/],
      [zipped({ '../../etc/passwd': strToU8('x') }), /holds|damaged/],
      [zipSync({ 'manifest.json': strToU8(JSON.stringify(manifest)) }), /no manifest or no database/],
    ] as const) {
      const answer = await restore(bench, file);
      expect(answer).toMatchObject({ status: 422, body: { detail: expect.stringMatching(told) } });
    }
    expect((await gadgets(bench)).map((g) => g.name)).toEqual(['Mine']);
    expect(leftovers(bench)).toEqual([]);
  });

  it('is refused when its database holds programs, strays or rows that nobody could show', async () => {
    const bench = await open();
    await bench.call('POST', '/api/gadgets', { template: 'several-temperatures', name: 'Mine' });
    const files = unzipSync(await backup(bench));
    const manifest = JSON.parse(strFromU8(files['manifest.json']!)) as object;
    const changed = (sql: string) => {
      const path = join(bench.dataDir, 'changed.sqlite');
      writeFileSync(path, files['workspace.sqlite']!);
      const database = new Database(path);
      database.pragma('foreign_keys = OFF');
      database.exec(sql);
      database.pragma('journal_mode = DELETE');
      database.close();
      const bytes = readFileSync(path);
      rmSync(path);
      const sha256 = createHash('sha256').update(bytes).digest('hex');
      return zipSync({
        'manifest.json': strToU8(JSON.stringify({ ...manifest, sha256, bytes: bytes.length })),
        'workspace.sqlite': new Uint8Array(bytes),
      });
    };
    const endless = 'WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT * FROM n';
    for (const [sql, told] of [
      [
        `ALTER TABLE parts RENAME TO x; CREATE VIEW parts AS ${endless}`,
        /contains a (view "parts"|table "x")/,
      ],
      [`CREATE TRIGGER t AFTER DELETE ON gadgets BEGIN DELETE FROM links; END`, /contains a trigger "t"/],
      [`CREATE TABLE more (a)`, /contains a table "more"/],
      [`UPDATE gadgets SET channels = '{'`, /gadget "Mine" is damaged/],
      [
        `UPDATE gadgets SET sample_rate_hz = -1, deleted_at = '2026-01-01T00:00:00.000Z'`,
        /gadget "Mine" is damaged/,
      ],
      [
        `DELETE FROM gadgets; INSERT INTO points SELECT * FROM points; UPDATE logbook SET gadget_id = 'gone'`,
        /refers? to missing rows of "gadgets"/,
      ],
    ] as const) {
      const answer = await restore(bench, changed(sql));
      expect(answer).toMatchObject({ status: 422, body: { detail: expect.stringMatching(told) } });
    }
    expect((await gadgets(bench)).map((g) => g.name)).toEqual(['Mine']);
    expect(leftovers(bench)).toEqual([]);
    expect(await restore(bench, changed('SELECT 1'))).toMatchObject({ status: 200 });
  });

  it('can be taken back: what was here before comes again, there and back', async () => {
    const bench = await open();
    expect((await bench.call('POST', '/api/workspace/bring-back')).status).toBe(404);
    await bench.call('POST', '/api/gadgets', { template: 'empty', name: 'First' });
    const file = await backup(bench);
    await bench.call('POST', '/api/gadgets', { template: 'empty', name: 'Second' });
    await restore(bench, file);
    expect((await gadgets(bench)).map((g) => g.name)).toEqual(['First']);
    expect((await bench.call('POST', '/api/workspace/bring-back')).status).toBe(204);
    expect((await gadgets(bench)).map((g) => g.name)).toEqual(['First', 'Second']);
    await bench.call('POST', '/api/workspace/bring-back');
    expect((await gadgets(bench)).map((g) => g.name)).toEqual(['First']);
    expect(leftovers(bench)).toEqual([]);
  });

  it('is not put in the place of what is being recorded', async () => {
    const bench = await open();
    const file = await backup(bench);
    const gadget = await bench.linkedGadget();
    await bench.call('POST', `/api/gadgets/${gadget.id}/recordings`, { name: 'running' });
    expect(await restore(bench, file)).toMatchObject({ status: 409, body: { code: 'recording' } });
  });
});
