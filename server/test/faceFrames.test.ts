import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { faceSpectrum } from '@lucky-needle/core/face';
import type {
  AlarmRule,
  Frames,
  FramesAnswer,
  Gadget,
  Problem,
  Recording,
  RecordingFigures,
  RecordingReadings,
} from '@lucky-needle/core/model';
import { alarmRule } from './alarmRule.ts';
import { openBench, SIMULATED, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const high = (change: Partial<AlarmRule>): AlarmRule =>
  alarmRule({ id: 'hot', name: 'Hot', channelId: 'p1', unit: 'degC', limit: 60, hysteresis: 2, ...change });

/** A run of probes, of which one is warm twice; with its highest kept, and an alarm on the reading and on that. */
async function warmTwice() {
  const made = (
    await bench.call<Gadget>('POST', '/api/gadgets', { template: 'several-temperatures', name: 'Kiln' })
  ).body;
  const figures = [
    {
      id: 'top',
      kind: 'extreme',
      name: 'Highest reading',
      watches: {},
      others: [],
      params: { which: 'highest' },
      askId: null,
    },
  ];
  const channels = made.channels.map((c) => (c.id === 'p1' ? { ...c, figures } : c));
  const alarms = [high({}), high({ id: 'top', name: 'Was hot', figureId: 'top' })];
  const { body: gadget, status } = await bench.call<Gadget>(
    'PATCH',
    `/api/gadgets/${made.id}`,
    { channels, alarms },
    { 'If-Match': `"${made.version}"` },
  );
  expect(status).toBe(200);
  const rows = Array.from({ length: 500 }, (_, t) => {
    const isWarm = (t >= 100 && t < 160) || (t >= 300 && t < 360);
    return `${t},${isWarm ? 200 : 700 + (t % 7)},700,700,700`;
  });
  const run = (await (
    await fetch(`${bench.server.url}/api/gadgets/${gadget.id}/recordings/import?name=fires`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/csv' },
      body: `time [s],p1 raw [count],p2 raw [count],p3 raw [count],p4 raw [count]\n${rows.join('\n')}\n`,
    })
  ).json()) as Recording;
  return { gadget, run };
}

async function framesOf(id: string, count: number): Promise<Frames> {
  for (;;) {
    const { body, status } = await bench.call<FramesAnswer>(
      'GET',
      `/api/recordings/${id}/face?frames=${count}`,
    );
    expect(status).toBe(200);
    if ('frames' in body) return body;
  }
}

describe('a run as its face would have shown it', () => {
  it('has at every moment the reading, the figures and the alarms of just then', async () => {
    const { run } = await warmTwice();
    const { frames } = await framesOf(run.id, 100);
    expect(frames).toHaveLength(100);
    expect(frames.at(-1)!.timeS).toBe(499);
    const { body: curve } = await bench.call<RecordingReadings>(
      'GET',
      `/api/recordings/${run.id}/readings?channel=p1&points=2000`,
    );
    let highest = -Infinity;
    for (const { timeS, channels, alarms } of frames) {
      // Rows up to the moment; that of the last frame is the end of the run.
      const k = curve.times.findLastIndex((t) => t! < timeS || (timeS === 499 && t === 499));
      const p1 = channels.find((c) => c.channelId === 'p1')!;
      expect(p1.value).toBe(curve.values[k] ?? null);
      highest = Math.max(highest, ...curve.values.slice(0, k + 1).map((v) => v ?? -Infinity));
      expect(p1.figures.find((f) => f.id === 'top')!.value).toBe(highest);
      const level = (id: string) => alarms.find((a) => a.ruleId === id)!.level;
      if (p1.value! > 60) expect(level('hot')).toBe('limit');
      if (p1.value! < 58) expect(level('hot')).toBe('quiet');
      // What has been the highest stays so.
      expect(level('top')).toBe(highest >= 60 ? 'limit' : 'quiet');
    }
    expect(frames.some((f) => f.alarms[0]!.level === 'limit')).toBe(true);
    const { body: whole } = await bench.call<RecordingFigures>('GET', `/api/recordings/${run.id}/figures`);
    const top = (all: { id: string; value: number | null }[]) => all.find((f) => f.id === 'top')!.value;
    expect(top(frames.at(-1)!.channels[0]!.figures)).toBe(top(whole.channels[0]!.figures));
  });

  it('has at every moment the spectrum of the readings before it, of channels that are shown by it', async () => {
    const { gadget, run } = await warmTwice();
    const widget = { x: 0, y: 0, width: 20, height: 10, figureId: null, text: '' };
    const widgets = [{ ...widget, id: 's', kind: 'spectrum', channelId: 'p1' }];
    const face = { displayId: 'oled-128x64', bigChannelId: 'p1', pages: [{ name: 'Page 1', widgets }] };
    const kept = await bench.call(
      'PATCH',
      `/api/gadgets/${gadget.id}`,
      { face },
      { 'If-Match': `"${gadget.version}"` },
    );
    expect(kept.status).toBe(200);
    const { frames } = await framesOf(run.id, 20);
    const { body: curve } = await bench.call<RecordingReadings>(
      'GET',
      `/api/recordings/${run.id}/readings?channel=p1&points=2000`,
    );
    // Too few readings say nothing of frequencies.
    expect(frames[0]!.spectra).toEqual([]);
    for (const { timeS, spectra } of frames.slice(2, -1)) {
      const upTo = curve.times.filter((t) => t! < timeS).length;
      const wanted = faceSpectrum({
        times: curve.times.slice(0, upTo).map(Number),
        values: curve.values.slice(0, upTo).map(Number),
        reasons: Array(upTo).fill(0) as number[],
      })!;
      expect(spectra).toHaveLength(1);
      expect(spectra[0]!.stepHz).toBeCloseTo(wanted.hz[0]!, 12);
      spectra[0]!.size.forEach((size, k) => expect(size / wanted.size[k]!).toBeCloseTo(1, 3));
    }
  });

  it('says where a reading lies beyond the points that it was trued up by', async () => {
    const { gadget, run } = await warmTwice();
    // Trued up where it is cool: 600 to 750 counts. In the fires it reads 200.
    for (const [mean, reading] of [
      [600, 29],
      [680, 22],
      [750, 16],
    ])
      await bench.call('POST', `/api/gadgets/${gadget.id}/points`, {
        channelId: 'p1',
        role: 'fit',
        reference: { kind: 'instrument', reading, uncertainty: 0.2 },
        capture: { mean, sd: 0.6, n: 100, nEffective: 90, durationS: 10 },
      });
    const used = await bench.call<Problem>('POST', `/api/gadgets/${gadget.id}/calibrations`, {
      channelId: 'p1',
      fit: 'gain-offset',
      note: '',
      use: true,
    });
    expect([used.status, used.body.detail]).toEqual([201, undefined]);
    const { frames } = await framesOf(run.id, 100);
    const told = frames.map((f) => [f.channels[0]!.value! > 60, f.channels[0]!.isBeyond]);
    expect(told.filter(([isHot]) => isHot).length).toBeGreaterThan(10);
    expect(told.every(([isHot, isBeyond]) => isHot === isBeyond)).toBe(true);
    expect(frames.every((f) => !f.channels[1]!.isBeyond)).toBe(true);
  });

  it('is told of now as well: the same readings, alarms and events as the other answers', async () => {
    const { gadget } = await warmTwice();
    const now = async () => (await bench.call<Frames>('GET', `/api/gadgets/${gadget.id}/face/now`)).body;
    const unlinked = (await now()).frames[0]!;
    expect(unlinked).toMatchObject({ silent: 'no link', channels: [{ value: null }, {}, {}, {}] });
    expect(unlinked.alarms.every((a) => a.level === 'unknown')).toBe(true);
    await bench.call('POST', `/api/gadgets/${gadget.id}/link`, SIMULATED);
    await vi.waitFor(async () => expect((await now()).frames[0]!.channels[0]!.value).not.toBeNull(), {
      timeout: 20_000,
    });
    // Unplugged nothing changes between two questions, once what was on its way has come.
    await bench.call('PATCH', `/api/gadgets/${gadget.id}/link`, { plugged: false });
    const { frames, events } = await vi.waitFor(async () => {
      const asked = await now();
      const { body: plain } = await bench.call<object>('GET', `/api/gadgets/${gadget.id}/now`);
      expect({ channels: asked.frames[0]!.channels }).toEqual(plain);
      return asked;
    });
    expect(frames[0]!.silent).toBe('no data from the link');
    expect(events.map((e) => e.channelId)).toEqual(gadget.channels.map((c) => c.id));
    expect((await bench.call('GET', '/api/gadgets/nobody/face/now')).status).toBe(404);
  });

  it('says what the maker calls it in the place of a number, and why an alarm cannot go by it', async () => {
    const made = await bench.call<Gadget>('POST', '/api/gadgets', { template: 'cell-bench', name: 'Cells' });
    const low = alarmRule({
      id: 'low',
      name: 'Low',
      channelId: 'v',
      unit: 'V',
      kind: 'low',
      limit: 3,
      from: 1,
      hysteresis: 0,
    });
    const patch = (body: object, version: number) =>
      bench.call<Gadget & Problem>('PATCH', `/api/gadgets/${made.body.id}`, body, {
        'If-Match': `"${version}"`,
      });
    const [volts, ...others] = made.body.channels;
    const wrong = { ...volts!, states: [{ name: 'full', unit: 'V', from: 5, to: 4 }] };
    const refused = await patch({ channels: [wrong, ...others] }, made.body.version);
    expect([refused.status, refused.body.detail]).toEqual([422, expect.stringMatching(/from 5 to 4 V/)]);
    expect((await patch({ alarms: [low] }, made.body.version)).status).toBe(200);
    await bench.call('POST', `/api/gadgets/${made.body.id}/link`, SIMULATED);
    const face = async () =>
      (await bench.call<Frames>('GET', `/api/gadgets/${made.body.id}/face/now`)).body.frames[0]!;
    for (const [condition, said] of [
      ['reversed', 'reversed'],
      ['empty', 'empty slot'],
    ] as const) {
      await bench.call('PATCH', `/api/gadgets/${made.body.id}/link`, { condition, speed: 20 });
      await vi.waitFor(async () => expect((await face()).channels[0]!.state).toBe(said), { timeout: 20_000 });
      expect((await face()).alarms[0]).toMatchObject({ level: 'unknown', reason: said, value: null });
    }
  });

  it('shows the same moments whatever their number, and refuses too many', async () => {
    const { run } = await warmTwice();
    const [few, many] = [await framesOf(run.id, 50), await framesOf(run.id, 100)];
    few.frames.forEach((frame, k) => {
      const same = many.frames[2 * k + 1]!;
      expect(frame.channels).toEqual(same.channels);
      expect(frame.alarms.map((a) => a.level)).toEqual(same.alarms.map((a) => a.level));
    });
    const refused = await bench.call<Problem>('GET', `/api/recordings/${run.id}/face?frames=5000`);
    expect([refused.status, refused.body.detail]).toEqual([422, expect.stringContaining('received 5000')]);
    expect((await bench.call('GET', '/api/recordings/none/face')).status).toBe(404);
  });
});
