import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type {
  AlarmRule,
  AlarmTrialResult,
  AlarmTruth,
  Gadget,
  GadgetAlarms,
  LogEntry,
  Problem,
  Recording,
  TrialsAnswer,
  WatchSpec,
} from '@lucky-needle/core/model';
import { alarmRule } from './alarmRule.ts';
import { openBench, SIMULATED, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const rule = (change: Partial<AlarmRule>): AlarmRule =>
  alarmRule({ limit: 1000, hysteresis: 50, latch: true, sounder: 'beeps', ...change });

async function linked(template: string, alarms: readonly AlarmRule[]): Promise<Gadget> {
  const made = await bench.call<Gadget>('POST', '/api/gadgets', { template, name: template });
  const set = await bench.call<Gadget>(
    'PATCH',
    `/api/gadgets/${made.body.id}`,
    { alarms },
    { 'If-Match': `"${made.body.version}"` },
  );
  expect(set.status).toBe(200);
  await bench.call('POST', `/api/gadgets/${made.body.id}/link`, SIMULATED);
  return set.body;
}
const drive = (id: string, change: object) => bench.call('PATCH', `/api/gadgets/${id}/link`, change);
const stand = async (id: string) => (await bench.call<GadgetAlarms>('GET', `/api/gadgets/${id}/alarms`)).body;
const log = async (id: string) =>
  (await bench.call<{ items: LogEntry[] }>('GET', `/api/gadgets/${id}/logbook`)).body.items.map(
    (e) => e.text,
  );

describe('alarms that the server runs', () => {
  it('a blow of ten milliseconds is never missed, with no page open', async () => {
    const { id } = await linked('impact-peak', [
      rule({ id: 'hard', name: 'Hard blow' }),
      rule({ id: 'last', name: 'Last impact', figureId: 'last', limit: 900 }),
    ]);
    expect((await stand(id)).level).not.toBe('limit');
    await drive(id, { condition: 'blows', speed: 20 });
    await vi.waitFor(
      async () => expect((await stand(id)).items.map((a) => a.level)).toEqual(['limit', 'limit']),
      { timeout: 20_000, interval: 100 },
    );
    // The blow is long over: its latch holds it until somebody has seen it.
    await drive(id, { condition: 'empty' });
    await vi.waitFor(async () => expect((await stand(id)).items[0]).toMatchObject({ isHeld: true }), {
      timeout: 20_000,
      interval: 100,
    });
    const seen = await bench.call<GadgetAlarms>('POST', `/api/gadgets/${id}/alarms/hard/see`);
    expect(seen.body.items[0]).toMatchObject({ level: 'quiet', isHeld: false });
    expect((await log(id)).join('\n')).toMatch(/Alarm “Hard blow”: limit at 1\S* N\./);
    expect((await bench.call<Problem>('POST', `/api/gadgets/${id}/alarms/none/see`)).status).toBe(404);
    // Forty thousand readings a second would keep the tests behind it waiting.
    await bench.call('DELETE', `/api/gadgets/${id}/link`);
  });

  it('says not known of a link that is unplugged, and says that nothing is heard', async () => {
    const { id } = await linked('several-temperatures', [
      rule({ id: 'hot', channelId: 'p1', unit: 'degC', limit: 200, latch: false }),
      rule({
        id: 'dead',
        channelId: 'p1',
        unit: 'degC',
        kind: 'silent',
        limit: null,
        windowS: 2,
        latch: false,
      }),
    ]);
    const levels = async () => (await stand(id)).items.map((a) => a.level);
    await vi.waitFor(async () => expect(await levels()).toEqual(['quiet', 'quiet']), { timeout: 20_000 });
    await drive(id, { plugged: false });
    await vi.waitFor(async () => expect(await levels()).toEqual(['unknown', 'limit']), {
      timeout: 20_000,
      interval: 200,
    });
    await drive(id, { plugged: true });
    await vi.waitFor(async () => expect(await levels()).toEqual(['quiet', 'quiet']), {
      timeout: 20_000,
      interval: 200,
    });
  });

  it('goes on where it stood when something else is changed, and is not known without a link', async () => {
    const { id } = await linked('several-temperatures', [
      rule({ id: 'warm', channelId: 'p1', unit: 'degC', limit: -200, latch: true }),
    ]);
    await vi.waitFor(async () => expect((await stand(id)).level).toBe('limit'), { timeout: 20_000 });
    await bench.call('POST', `/api/gadgets/${id}/alarms/warm/see`);
    const now = (await bench.call<Gadget>('GET', `/api/gadgets/${id}`)).body;
    await bench.call(
      'PATCH',
      `/api/gadgets/${id}`,
      { alarms: [...now.alarms!, rule({ id: 'b', channelId: 'p2', unit: 'degC', limit: 500 })] },
      { 'If-Match': `"${now.version}"` },
    );
    await vi.waitFor(async () => expect((await stand(id)).items).toHaveLength(2), { timeout: 20_000 });
    expect((await stand(id)).items[0]).toMatchObject({ level: 'limit', isSeen: true });
    await bench.call('DELETE', `/api/gadgets/${id}/link`);
    expect(await stand(id)).toMatchObject({
      level: 'unknown',
      items: [{ reason: 'no link' }, { reason: 'no link' }],
    });
  });
});

describe('an alarm tried on a run', () => {
  it('says what it would have caught, by the marks of the run, through the same line as live', async () => {
    const { body: gadget } = await bench.call<Gadget>('POST', '/api/gadgets', {
      template: 'several-temperatures',
      name: 'Kiln',
    });
    // Counts of probe 1 rise as it gets colder: warm for a minute from 100 s and from 300 s on.
    const rows = Array.from({ length: 500 }, (_, t) => {
      const isWarm = (t >= 100 && t < 160) || (t >= 300 && t < 360);
      // Probe 2 hangs beside it as a reference, and feels each five seconds before.
      const isNear = (t >= 95 && t < 160) || (t >= 295 && t < 360);
      return `${t},${isWarm ? 300 : 700},${isNear ? 300 : 700},700,700`;
    });
    const run = await bench.call<{ id: string }>(
      'POST',
      `/api/gadgets/${gadget.id}/recordings/import?name=leaks`,
      `time [s],p1 raw [count],p2 raw [count],p3 raw [count],p4 raw [count]\n${rows.join('\n')}\n`,
      { 'Content-Type': 'text/csv' },
    );
    expect(run.status).toBe(201);
    for (const timeS of [100, 300])
      expect(
        (await bench.call('POST', `/api/recordings/${run.body.id}/markers`, { timeS, text: 'fire' })).status,
      ).toBeLessThan(300);
    const look = (limit: number, truth: AlarmTruth = { kind: 'marks', text: 'fire' }, withinS = 30) =>
      bench.call<AlarmTrialResult & Problem>('POST', `/api/recordings/${run.body.id}/alarm-trial`, {
        rule: rule({ channelId: 'p1', unit: 'degC', limit, hysteresis: 1 }),
        truth,
        withinS,
      });
    await vi.waitFor(
      async () => expect((await look(45)).body.own).toMatchObject({ caught: 2, missed: 0, falseAlarms: 0 }),
      { timeout: 20_000 },
    );
    const told = (await look(45)).body;
    expect(told.levels.length).toBeGreaterThan(10);
    expect(told.proposed).toMatchObject({ caught: 2, falseAlarms: 0 });
    expect((await look(400)).body.own).toMatchObject({ caught: 0, missed: 2 });
    expect(
      (
        await bench.call('POST', '/api/recordings/none/alarm-trial', {
          rule: rule({}),
          truth: { kind: 'none' },
          withinS: 1,
        })
      ).status,
    ).toBe(404);
    // What counts on another channel can say it as well; a watch that there is not is refused.
    const beside: AlarmTruth = { kind: 'watch', channelId: 'p2', watchId: 'hot' };
    expect(await look(45, beside)).toMatchObject({ status: 422, body: { field: 'truth' } });
    const { body: now } = await bench.call<Gadget>('GET', `/api/gadgets/${gadget.id}`);
    const hot: WatchSpec = {
      id: 'hot',
      name: 'Hot',
      kind: 'beyond',
      column: null,
      params: { side: 'above', level: 45, hysteresis: 1, shortestS: 0, n: 1, m: 1 },
      deadTimeS: 0,
      after: null,
      leastS: 0,
    };
    const channels = now.channels.map((c) => (c.id === 'p2' ? { ...c, watches: [hot] } : c));
    const patched = await bench.call(
      'PATCH',
      `/api/gadgets/${gadget.id}`,
      { channels },
      { 'If-Match': `"${now.version}"` },
    );
    expect(patched.status).toBe(200);
    await vi.waitFor(
      async () => expect((await look(45, beside)).body.own).toMatchObject({ caught: 2, falseAlarms: 0 }),
      { timeout: 20_000 },
    );
    const { events, own, hours } = (await look(45, beside)).body;
    expect(events).toBe(2);
    expect(own.lateS).toBeGreaterThan(3);
    expect(own.lateS).toBeLessThan(7);
    // Each lasts 65 s, longer than the 30 s within which an alarm counts.
    expect(hours).toBeCloseTo((499 - 130) / 3600, 2);
    expect((await look(45, { kind: 'none' })).body).toMatchObject({ events: 0, own: { falseAlarms: 2 } });
  });

  it('what a simulated world is made to do stands in the run as marks, and cuts no tries', async () => {
    const { id } = await linked('impact-peak', []);
    const run = await bench.call<Recording>('POST', `/api/gadgets/${id}/recordings`, { name: 'told' });
    expect(run.status).toBe(201);
    const marks = async () =>
      (await bench.call<Recording>('GET', `/api/recordings/${run.body.id}`)).body.markers;
    // The first reading must be there: a mark has a moment.
    await vi.waitFor(
      async () => {
        await drive(id, { condition: 'blows' });
        await drive(id, { condition: 'empty' });
        expect((await marks()).length).toBeGreaterThan(0);
      },
      { timeout: 20_000 },
    );
    const before = (await marks()).length;
    await drive(id, { condition: 'empty', faults: { dropOuts: 0, noise: 0, stuck: 'load' } });
    await drive(id, { speed: 2 });
    const told = await marks();
    expect(told).toHaveLength(before + 1);
    expect(told.at(-1)).toMatchObject({ text: 'load stuck', isTruth: true });
    expect(told.every((m) => m.isTruth)).toBe(true);
    await bench.call('POST', `/api/recordings/${run.body.id}/stop`);
    const rule = {
      how: 'marks',
      channelId: 'blow',
      watchId: null,
      endWatchId: null,
      figureId: null,
      more: true,
    };
    const cut = await vi.waitFor(
      async () => {
        const { body } = await bench.call<TrialsAnswer>('POST', `/api/gadgets/${id}/trials`, { rule });
        if (!('trials' in body)) throw new Error('still cutting');
        return body.trials;
      },
      { timeout: 20_000 },
    );
    expect(cut).toHaveLength(1);
  });
});
