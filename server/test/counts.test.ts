import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type {
  ChannelCount,
  Gadget,
  NowReading,
  Recording,
  RecordingFigures,
  SeenEvent,
} from '@lucky-needle/core/model';
import type { WatchedEvent } from '@lucky-needle/core/detect';
import { readoutSpec } from '@lucky-needle/core/plan';
import { createWatchedReadout } from '@lucky-needle/core/reading';
import { recordingCounts } from '../src/readings/recordingCounts.ts';
import { openBench, SIMULATED, until, type TestBench } from './bench.ts';
import { storedRun } from './storedRun.ts';

/** A blow a second, each a little higher, and a counter that steps with it. */
function blows(n: number) {
  const times = Float64Array.from({ length: n }, (_, i) => (i + 1) / 1000);
  const load = times.map((t) => {
    const at = (t % 1) - 0.5;
    return at > 0 && at < 0.012
      ? Math.round((100 + 10 * Math.floor(t)) * Math.sin((Math.PI * at) / 0.012))
      : 0;
  });
  return { times, load };
}

const gadget = (change: Partial<Gadget['channels'][number]> = {}) =>
  ({
    brief: null,
    picks: [],
    channels: [
      {
        id: 'c',
        askId: 'a',
        name: 'Blow',
        line: { sources: [{ column: 'load', unit: 'N' }], stages: [] },
        watches: [
          {
            id: 'blow',
            name: 'Blow',
            kind: 'pulse',
            column: null,
            params: { level: 50, hysteresis: 10, shortestS: 0 },
            deadTimeS: 0,
            after: null,
            leastS: 0,
          },
          {
            id: 'go',
            name: 'Go',
            kind: 'button',
            column: null,
            params: { handS: 0.1 },
            deadTimeS: 0,
            after: null,
            leastS: 0,
          },
        ],
        figures: [
          {
            id: 'n',
            name: 'Blows',
            kind: 'count',
            watches: { of: 'blow' },
            others: [],
            params: {},
            askId: null,
          },
          {
            id: 'first',
            name: 'From Go to the next blow',
            kind: 'time-between',
            watches: { from: 'go', to: 'blow' },
            others: [],
            params: {},
            askId: null,
          },
        ],
        ...change,
      },
    ],
    sampleRateHz: 1000,
  }) as unknown as Gadget;

describe('what counts in a recording', () => {
  it('is what a readout of all of it counts, with presses where they were', async () => {
    const { times, load } = blows(70_000);
    const press = { id: 'm', timeS: 20.2, text: 'Go' };
    const { database, knex, recording } = await storedRun({ load }, times, 1000, { markers: [press] });
    try {
      const spec = readoutSpec(gadget(), [], [], 1000);
      const whole: WatchedEvent[] = [];
      const readout = createWatchedReadout(spec);
      const feed = (from: number, to: number) =>
        readout.feed(
          { length: to - from, times: times.subarray(from, to), columns: [load.subarray(from, to)] },
          () => undefined,
          (_k, e) => whole.push(e),
        );
      const at = times.findIndex((t) => t >= 20.2);
      feed(0, at);
      readout.press(0, 'go', 20.2, (e) => whole.push(e));
      feed(at, times.length);
      const [found] = await recordingCounts(knex, recording, spec.channels);
      expect(found!.problem).toBeNull();
      expect(found!.events).toEqual(whole);
      expect(found!.figures).toEqual(readout.figures(0));
      expect(found!.figures.map((f) => f.value)[0]).toBe(70);
      // Pressed at 20.2 s; the next blow is over a hundredth after 20.5 s.
      expect(found!.figures[1]!.value).toBeCloseTo(0.31, 1);
    } finally {
      await database.close();
    }
  });

  it('says which raw column is missing, and counts the other channels', async () => {
    const { times, load } = blows(3000);
    const { database, knex, recording } = await storedRun({ load }, times, 1000);
    try {
      const broken = gadget().channels[0]!;
      const watches = broken.watches!.map((w) =>
        w.id === 'blow'
          ? { ...w, kind: 'signal', column: 'bell', params: { level: 1, direction: 'rising' } }
          : w,
      );
      const two = { ...gadget(), channels: [...gadget().channels, { ...broken, id: 'd', watches }] };
      const { channels } = readoutSpec(two, [], [], 1000);
      const [good, bad] = await recordingCounts(knex, recording, channels);
      expect(good!.figures[0]!.value).toBe(3);
      expect(bad!.problem).toMatch(/raw column “bell”, which does not exist\. Available columns: load/);
      expect(bad!.figures).toEqual([]);
    } finally {
      await database.close();
    }
  });
});

describe('what counts on a linked gadget', () => {
  let bench: TestBench;
  beforeAll(async () => {
    bench = await openBench();
  });
  afterAll(() => bench.close());
  const make = async (template: string) => {
    const { body } = await bench.call<Gadget>('POST', '/api/gadgets', { template, name: template });
    await bench.call('POST', `/api/gadgets/${body.id}/link`, SIMULATED);
    return body;
  };
  const now = async (id: string) =>
    (await bench.call<{ channels: NowReading[] }>('GET', `/api/gadgets/${id}/now`)).body.channels;

  it('is a race in seconds that no leaf ends, live and in the recording of it', async () => {
    const { id } = await make('crossing-timer');
    await bench.call('PATCH', `/api/gadgets/${id}/link`, { speed: 20 });
    const started = await bench.call<Recording>('POST', `/api/gadgets/${id}/recordings`, { name: 'Race' });
    expect(started.status).toBe(201);
    await bench.call('PATCH', `/api/gadgets/${id}/link`, { condition: 'leaf' });
    const [gate] = await until(
      () => now(id),
      ([first]) => first!.value !== null,
    );
    expect(gate).toMatchObject({ unit: 's', shows: 'time', reason: null });
    expect(gate!.value).toBeGreaterThan(25);
    expect(gate!.uncertainty).toBeNull();
    await bench.call('POST', `/api/recordings/${started.body.id}/stop`);
    const run = await until(
      () => bench.call<RecordingFigures>('GET', `/api/recordings/${started.body.id}/figures`),
      ({ body }) => body.channels?.[0]?.figures[0]?.value !== null,
    );
    const [time] = run.body.channels[0]!.figures;
    expect(time!.value).toBeCloseTo(gate!.value!, 6);
    const events = await bench.call<Omit<ChannelCount, 'figures'>>(
      'GET',
      `/api/recordings/${started.body.id}/events?channel=gate`,
    );
    const counted = events.body.events.filter((e: SeenEvent) => e.counted).map((e) => e.watchId);
    expect(counted).toEqual(['start', 'finish']);
    expect(events.body.events.some((e) => !e.counted && e.why !== '')).toBe(true);
  });

  it('begins anew at a reset; a button that is not there is refused', async () => {
    const { id } = await make('impact-peak');
    await bench.call('PATCH', `/api/gadgets/${id}/link`, { speed: 4, condition: 'blows' });
    const countOf = async () => (await now(id))[0]!.figures.find((f) => f.id === 'count')!.value!;
    await until(countOf, (n) => n >= 3);
    expect((await bench.call('POST', `/api/gadgets/${id}/reset`, { channelId: 'blow' })).status).toBe(204);
    expect(await countOf()).toBeLessThanOrEqual(1);
    const press = await bench.call<{ detail: string }>('POST', `/api/gadgets/${id}/press`, {
      channelId: 'blow',
      watchId: 'blow',
    });
    expect([press.status, press.body.detail]).toEqual([404, expect.stringMatching(/no such button/)]);
  });

  it('keeps a press as a mark of the recording, and goes on counting when another channel changes', async () => {
    const { id } = await make('impact-peak');
    const { body: stored } = await bench.call<Gadget>('GET', `/api/gadgets/${id}`);
    const [channel] = stored.channels;
    const button = {
      id: 'go',
      name: 'Go',
      kind: 'button',
      column: null,
      params: { handS: 0.1 },
      deadTimeS: 0,
      after: null,
      leastS: 0,
    };
    const saved = await bench.call<Gadget>(
      'PATCH',
      `/api/gadgets/${id}`,
      { channels: [{ ...channel, watches: [...channel!.watches!, button] }] },
      { 'If-Match': `"${stored.version}"` },
    );
    expect(saved.status).toBe(200);
    await bench.call('PATCH', `/api/gadgets/${id}/link`, { speed: 4, condition: 'blows' });
    await until(
      () => now(id),
      ([c]) => c!.figures.find((f) => f.id === 'count')!.value! >= 2,
    );
    const { body: run } = await bench.call<Recording>('POST', `/api/gadgets/${id}/recordings`, { name: 'R' });
    const press = await bench.call<{ timeS: number }>('POST', `/api/gadgets/${id}/press`, {
      channelId: 'blow',
      watchId: 'go',
    });
    const { body: marked } = await bench.call<Recording>('GET', `/api/recordings/${run.id}`);
    expect(marked.markers.map((m) => [m.text, m.timeS])).toEqual([['Go', press.body.timeS]]);
    const before = (await now(id))[0]!.figures.find((f) => f.id === 'count')!.value!;
    const added = {
      id: 'kilo',
      askId: 'blow',
      name: 'In kilonewton',
      line: {
        sources: [{ column: 'blow', unit: 'N' }],
        stages: [
          { id: 'kn', kind: 'change-unit', params: { from: 'N', to: 'kN' }, uncertainty: {}, off: false },
        ],
      },
      feed: { channelId: 'blow', stageId: null },
    };
    const more = await bench.call<Gadget>(
      'PATCH',
      `/api/gadgets/${id}`,
      { channels: [...saved.body.channels, added] },
      { 'If-Match': `"${saved.body.version}"` },
    );
    expect([more.status, JSON.stringify(more.body)]).toEqual([200, expect.anything()]);
    const [own, fed] = await until(
      () => now(id),
      (all) => all.length === 2 && all[1]!.value !== null,
    );
    expect(own!.figures.find((f) => f.id === 'count')!.value!).toBeGreaterThanOrEqual(before);
    // In the brief's unit, whatever its own line ends in.
    expect(fed!.unit).toBe('N');
  });

  it.each<[string, (c: Gadget['channels'][number]) => object, RegExp]>([
    ['a figure of an event that is not there', (c) => ({ ...c, watches: [] }), /Choose an event for/],
    [
      'a channel that goes on from itself',
      (c) => ({ ...c, feed: { channelId: 'blow', stageId: null } }),
      /from itself/,
    ],
    [
      'a channel that goes on from nothing',
      (c) => ({ ...c, feed: { channelId: 'x', stageId: null } }),
      /does not exist/,
    ],
  ])('refuses %s, naming it', async (_what, change, message) => {
    const { body: made } = await bench.call<Gadget>('POST', '/api/gadgets', {
      template: 'impact-peak',
      name: 'Refused',
    });
    const { status, body } = await bench.call<{ detail: string }>(
      'PATCH',
      `/api/gadgets/${made.id}`,
      { channels: made.channels.map(change) },
      { 'If-Match': `"${made.version}"` },
    );
    expect([status, body.detail]).toEqual([422, expect.stringMatching(message)]);
  });
});
