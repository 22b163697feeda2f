import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
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
      [strToU8('no zip at all'), /no zip archive/],
      [zipped({ 'workspace.sqlite': broken }), /does not match its checksum/],
      [zipped({}, { form: 'else' }), /manifest is none of a workspace/],
      [zipped({}, { version: 99 }), /made by a newer Lucky Needle/],
      [zipped({ '../../etc/passwd': strToU8('x') }), /holds|damaged/],
      [zipSync({ 'manifest.json': strToU8(JSON.stringify(manifest)) }), /no manifest and no database/],
    ] as const) {
      const answer = await restore(bench, file);
      expect(answer).toMatchObject({ status: 422, body: { detail: expect.stringMatching(told) } });
    }
    expect((await gadgets(bench)).map((g) => g.name)).toEqual(['Mine']);
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
