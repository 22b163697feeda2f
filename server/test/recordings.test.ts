import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { decodeSampleBlock } from '@lucky-needle/core/formats';
import type { Gadget, Problem, Recording } from '@lucky-needle/core/model';
import { openBench, recordingOf, until, type TestBench } from './bench.ts';

let bench: TestBench;
let gadget: Gadget;
beforeAll(async () => {
  bench = await openBench();
  gadget = await bench.linkedGadget();
});
afterAll(() => bench.close());

const start = (name = 'Run') =>
  bench.call<Recording & Problem>('POST', `/api/gadgets/${gadget.id}/recordings`, { name });
const stop = (id: string) => bench.call<Recording>('POST', `/api/recordings/${id}/stop`);
const link = (patch: object) => bench.call('PATCH', `/api/gadgets/${gadget.id}/link`, patch);
const window = async (id: string, query = '') =>
  decodeSampleBlock(
    await (await fetch(`${bench.server.url}/api/recordings/${id}/window${query}`)).arrayBuffer(),
  );
const importCsv = (text: string, name = 'back') =>
  bench.call<Recording & Problem>('POST', `/api/gadgets/${gadget.id}/recordings/import?name=${name}`, text, {
    'Content-Type': 'text/csv',
  });

async function record(samples = 150): Promise<Recording> {
  const { body } = await start();
  await until(
    () => recordingOf(bench, body.id),
    (r) => r.sampleCount >= samples,
  );
  return (await stop(body.id)).body;
}

describe('recording the link', () => {
  it('keeps raw counts as they came and closes with their number', async () => {
    const recording = await record();
    expect(recording).toMatchObject({
      state: 'closed',
      columns: [1, 2, 3, 4].map((i) => ({ name: `p${i}`, unit: 'count' })),
      lostReadings: 0,
    });
    const block = await window(recording.id);
    expect(block.header.count).toBe(recording.sampleCount);
    expect(block.columns[0]!.every((v) => Number.isInteger(v) && v >= 0 && v <= 1023)).toBe(true);
    expect(block.times.every((t, i) => i === 0 || Math.abs(t - block.times[i - 1]! - 0.1) < 1e-9)).toBe(true);
    expect([block.times[0], block.times.at(-1)]).toEqual([recording.firstTimeS, recording.lastTimeS]);
  });

  it('refuses a second recording, a stop of what does not run, and a gadget without link', async () => {
    const { body } = await start();
    expect(await start()).toMatchObject({ status: 409, body: { code: 'recording' } });
    expect((await bench.call('DELETE', `/api/gadgets/${gadget.id}`)).status).toBe(409);
    await stop(body.id);
    expect((await stop(body.id)).status).toBe(409);
    const other = await bench.call<Gadget>('POST', '/api/gadgets', { template: 'empty', name: 'Bare' });
    expect(await bench.call('POST', `/api/gadgets/${other.body.id}/recordings`, { name: 'x' })).toMatchObject(
      { status: 409, body: { code: 'no-link' } },
    );
  });

  it('marks a gap when the cable is pulled, and goes on', async () => {
    const { body } = await start('With a gap');
    await until(
      () => recordingOf(bench, body.id),
      (r) => r.sampleCount > 50,
    );
    await link({ plugged: false });
    const before = (
      await until(
        () => recordingOf(bench, body.id),
        (r) => r.sampleCount > 50,
      )
    ).sampleCount;
    await new Promise((done) => setTimeout(done, 700));
    await link({ plugged: true });
    await until(
      () => recordingOf(bench, body.id),
      (r) => r.sampleCount > before + 50,
    );
    const closed = (await stop(body.id)).body;
    expect(closed.issues.map((i) => i.code)).toEqual(['gap']);
    expect(closed.lostReadings).toBeGreaterThan(50);
    const times = (await window(closed.id)).times;
    const steps = times.slice(1).map((t, i) => t - times[i]!);
    expect(Math.round((Math.max(...steps) - 0.1) / 0.1)).toBe(closed.lostReadings);
  });

  it('can be renamed, left out with a reason and counted again', async () => {
    const recording = await record(20);
    const patch = (body: object) => bench.call<Recording>('PATCH', `/api/recordings/${recording.id}`, body);
    expect((await patch({ excluded: 'door was open' })).body.excluded).toBe('door was open');
    expect((await patch({ excluded: '' })).status).toBe(422);
    expect((await patch({ excluded: null, name: 'Good run' })).body).toMatchObject({
      excluded: null,
      name: 'Good run',
    });
  });
});

describe('windows', () => {
  it('cuts by time and thins to lowest and highest pairs without losing a peak', async () => {
    const rows = Array.from({ length: 20_000 }, (_, i) => `${i / 10},${i === 12_345 ? 1000 : 500},1,2,3`);
    const { body } = await importCsv(
      `time [s],p1 raw [count],p2 raw [count],p3 raw [count],p4 raw [count]\n${rows.join('\n')}`,
      'long',
    );
    expect(body.sampleCount).toBe(20_000);
    const cut = await window(body.id, '?from=100&to=200');
    expect([cut.header.count, cut.times[0], cut.times.at(-1)]).toEqual([1001, 100, 200]);
    const thin = await window(body.id, '?points=1000');
    expect(thin.header.count).toBeLessThanOrEqual(1002);
    expect(Math.max(...thin.columns[0]!)).toBe(1000);
    expect(Math.min(...thin.columns[0]!)).toBe(500);
    expect((await bench.call('GET', `/api/recordings/${body.id}/window?points=1`)).status).toBe(422);
  });
});

describe('CSV out and in', () => {
  it('comes back to the very same samples', async () => {
    const recording = await record();
    const csv = await bench.call<string>('GET', `/api/recordings/${recording.id}/export/csv`);
    expect(csv.headers.get('content-disposition')).toContain('run.csv');
    expect(csv.body.split('\r\n')[0]).toBe(
      'time [s],p1 raw [count],p2 raw [count],p3 raw [count],p4 raw [count],Probe 1 [degC],Probe 2 [degC],Probe 3 [degC],Probe 4 [degC]',
    );
    const back = await importCsv(csv.body);
    expect(back).toMatchObject({
      status: 201,
      body: { state: 'imported', sampleCount: recording.sampleCount, issues: [] },
    });
    expect(back.body.sampleRateHz).toBeCloseTo(10, 6);
    const [a, b] = [await window(recording.id), await window(back.body.id)];
    expect(b.times).toEqual(a.times);
    expect(b.columns).toEqual(a.columns);
  });

  it('keeps good rows and numbers the bad ones', async () => {
    const { body } = await importCsv(
      'time [s],p1 raw [count]\n0,500\n0.1,oops\n0.05x,1\n0.2,502\n0.1,503\n0.3,\n',
    );
    expect(body.sampleCount).toBe(3);
    expect(body.issues.map((i) => [i.row, i.code])).toEqual([
      [3, 'not-a-number'],
      [4, 'no-time'],
      [6, 'time-backwards'],
    ]);
    expect((await window(body.id)).columns[0]).toEqual(Float64Array.from([500, 502, Number.NaN]));
  });

  it.each([
    ['', /file is empty/],
    ['time [s],p1 raw [count]\n', /No row of numbers found/],
    ['a,b\n1,2\n', /file contains b; this gadget needs p1, p2, p3, p4/],
    ['time [s],q7 raw [count]\n0,1\n', /file contains q7 raw; this gadget needs p1, p2, p3, p4/],
    ['time [s],p1 raw [count]\nx,y\n', /No row of numbers found/],
  ])('refuses %j, says why, and leaves nothing behind', async (text, detail) => {
    const count = async () =>
      (await bench.call<{ total: number }>('GET', `/api/gadgets/${gadget.id}/recordings`)).body.total;
    const before = await count();
    const answer = await importCsv(text);
    expect(answer).toMatchObject({ status: 422, body: { detail: expect.stringMatching(detail) } });
    expect(await count()).toBe(before);
  });
});
