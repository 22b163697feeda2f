import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type {
  AlarmRule,
  FramesAnswer,
  Gadget,
  Problem,
  Recording,
  RecordingFigures,
  RecordingReadings,
} from '@lucky-needle/core/model';
import { openBench, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

type Frames = Extract<FramesAnswer, { frames: unknown }>;

const high = (change: Partial<AlarmRule>): AlarmRule => ({
  id: 'hot',
  name: 'Hot',
  channelId: 'p1',
  figureId: null,
  kind: 'high',
  unit: 'degC',
  caution: null,
  limit: 60,
  from: null,
  to: null,
  hysteresis: 2,
  windowS: 0,
  n: 1,
  m: 1,
  minimumOnS: 0,
  latch: false,
  lamp: 'red',
  sounder: 'none',
  why: '',
  ...change,
});

/** A run of probes, of which one is warm twice; with its highest kept, and an alarm on the reading and on that. */
async function warmTwice() {
  const made = (
    await bench.call<Gadget>('POST', '/api/gadgets', { template: 'several-temperatures', name: 'Kiln' })
  ).body;
  const figures = [
    {
      id: 'top',
      kind: 'extreme',
      name: 'Highest',
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
    return `${t},${isWarm ? 200 : 700},700,700,700`;
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
