import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Gadget, LiveStretch, MadeLink, NowReading } from '@lucky-needle/core/model';
import { createReadout } from '@lucky-needle/core/reading';
import { LiveBench } from '../src/capture/liveBench.ts';
import { openBench, SIMULATED, until, type TestBench } from './bench.ts';

const stage = (kind: string, params: Record<string, number | string>) => ({
  id: kind,
  kind,
  params,
  uncertainty: {},
  off: false,
});
const mean = (width: number) => ({
  columns: ['c1'],
  sampleRateHz: 10,
  channels: [
    {
      id: 'c',
      line: {
        sources: [{ column: 'c1', unit: 'V' as const }],
        stages: [stage('moving-mean', { width })],
      },
    },
  ],
});

describe('a live bench', () => {
  it('gives what the readout gives, however its rows come in', () => {
    const live = new LiveBench(['c1']);
    live.setUp(mean(5));
    const column = Float64Array.from({ length: 9000 }, (_, i) => Math.sin(i / 7));
    column.forEach((v, i) => {
      live.append(i / 10, [v]);
      if (i % 37 === 0) live.run();
    });
    live.run();
    const expected: number[] = [];
    createReadout(mean(5)).feed(
      { length: 9000, times: column.map((_, i) => i / 10), columns: [column] },
      (_c, stages) => expected.push(...stages.at(-1)!.lanes[0]!.values.subarray(0, stages.at(-1)!.length)),
    );
    const [part] = live.recent(Infinity, Infinity).slice(-1);
    expect(Array.from(part!.values)).toEqual(expected.slice(-part!.values.length));
    expect(live.newest('c')).toEqual({ timeS: 899.9, value: expected.at(-1), reason: 0 });
  });

  it('is primed with the newest rows when a line changes, and tells the pages anew', () => {
    const live = new LiveBench(['c1']);
    live.setUp(mean(1));
    for (let i = 0; i < 100; i++) live.append(i / 10, [i]);
    const before = live.setUps;
    live.setUp(mean(3));
    expect(live.setUps).not.toBe(before);
    expect(live.newest('c')!.value).toBe(98);
  });

  it('keeps a bounded stretch, whatever comes', () => {
    const live = new LiveBench(['c1']);
    live.setUp(mean(1));
    for (let i = 0; i < 1_000_000; i++) live.append(i / 1e5, [i]);
    live.run();
    expect(live.raw.length).toBeLessThanOrEqual(300_000);
    expect(live.newest('c')!.value).toBe(999_999);
  });

  it('knows the mean of a stretch of five minutes, and from when on it knows anything', () => {
    const live = new LiveBench(['c1']);
    live.setUp(mean(1));
    for (let i = 0; i < 6000; i++) live.append(i / 10, [i < 3000 ? 1 : 2]);
    const { statistics, knownFromS } = live.stretch('c', 150, 449.95);
    expect(statistics).toMatchObject({ n: 3000, bad: 0 });
    expect(statistics!.mean).toBeCloseTo(1.5, 9);
    expect(statistics!.seconds).toBeCloseTo(299.9, 9);
    expect(knownFromS).toBe(0);
  });
});

describe('what a gadget reads now', () => {
  let bench: TestBench;
  beforeAll(async () => {
    bench = await openBench({}, { demo: true });
  });
  afterAll(() => bench.close());
  const now = async (id: string) =>
    (await bench.call<{ channels: NowReading[] }>('GET', `/api/gadgets/${id}/now`)).body.channels;
  const gadgets = async () => (await bench.call<{ items: Gadget[] }>('GET', '/api/gadgets')).body.items;

  it('is told of all of the mill without a page: a number, or why there is none', async () => {
    for (const gadget of await gadgets()) {
      const channels = await until(
        () => now(gadget.id),
        (all) => all.every((c) => c.timeS !== null || c.reason !== null),
      );
      expect(channels.map((c) => c.channelId)).toEqual(gadget.channels.map((c) => c.id));
      for (const c of channels) expect(c.value === null).toBe(c.reason !== null);
    }
  });

  it('does not count what a sensor says while it warms up, once its part is picked', async () => {
    const gadget = (await gadgets()).find((g) => g.template === 'gas-watch')!;
    const cold = await until(
      () => now(gadget.id),
      ([first]) => first!.timeS !== null,
    );
    expect(cold.every((c) => c.value === null && c.reason === 'warming up')).toBe(true);
    await bench.call('PATCH', `/api/gadgets/${gadget.id}/link`, { speed: 20 });
    await until(
      () => now(gadget.id),
      (all) => all.every((c) => c.value !== null),
    );
    await bench.call('PATCH', `/api/gadgets/${gadget.id}/link`, { speed: 1 });
  });

  it('follows a change of the line at once, and stands at the same place in it as if it had always been so', async () => {
    const gadget = (await gadgets()).find((g) => g.template === 'several-temperatures')!;
    const before = await until(
      () => now(gadget.id),
      ([first]) => first!.value !== null,
    );
    const channels = gadget.channels.map((c) => ({
      ...c,
      line: { ...c.line, stages: [...c.line.stages, stage('change-unit', { from: 'degC', to: 'degF' })] },
    }));
    const { body, status } = await bench.call<Gadget>(
      'PATCH',
      `/api/gadgets/${gadget.id}`,
      { channels },
      { 'If-Match': `"${gadget.version}"` },
    );
    expect(status, JSON.stringify(body)).toBe(200);
    const [after] = await until(
      () => now(gadget.id),
      ([first]) => first!.value !== null && Math.abs(first!.value - before[0]!.value!) < 1,
    );
    expect(after!.unit).toBe('degC');
  });

  it('says that there is no link, and what a stretch comes to', async () => {
    const made = await bench.call<Gadget>('POST', '/api/gadgets', { template: 'rotation', name: 'Wheel' });
    const { id } = made.body;
    expect((await now(id))[0]).toMatchObject({ value: null, reason: 'no link', timeS: null });
    await bench.call<MadeLink>('POST', `/api/gadgets/${id}/link`, SIMULATED);
    await bench.call('PATCH', `/api/gadgets/${id}/link`, { speed: 20 });
    // From power-up a standing wheel is no fault: it waits, then it stands at 0.
    const [first] = await until(
      () => now(id),
      ([c]) => c!.value !== null,
    );
    expect(first).toMatchObject({ value: 0, unit: 'rpm', reason: null });
    await bench.call('PATCH', `/api/gadgets/${id}/link`, { condition: 'running' });
    await until(
      () => now(id),
      ([c]) => (c!.value ?? 0) > 90,
    );
    const { timeS } = (await now(id))[0]!;
    const { body } = await until(
      () => bench.call<LiveStretch>('GET', `/api/gadgets/${id}/stretch?channel=spindle&fromS=${timeS}`),
      (answer) => (answer.body.statistics?.n ?? 0) > 50,
    );
    expect(body.statistics!.mean).toBeGreaterThan(80);
    expect(body.unit).toBe('rpm');
  });
});
