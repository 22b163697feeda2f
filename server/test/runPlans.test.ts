import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Gadget, LogEntry, Problem, Recording, RunPlan, RunPlanAnswer } from '@lucky-needle/core/model';
import { openBench, SIMULATED, until, type TestBench } from './bench.ts';

const PLAN: RunPlan = { name: 'Night', startAt: null, daily: false, stopAfterS: null, stopAt: null };
const DAY_MS = 86_400_000;

let bench: TestBench;
let gadget: Gadget;
/** The bench's time of day, moved by hand. */
let nowMs = Date.parse('2026-03-10T20:00:00Z');
const at = (seconds: number) => new Date(nowMs + 1000 * seconds).toISOString();
const path = () => `/api/gadgets/${gadget.id}/run-plan`;
const plan = (change: Partial<RunPlan>) =>
  bench.call<RunPlan & Problem>('PUT', path(), { ...PLAN, ...change });
const planned = async () => (await bench.call<RunPlanAnswer>('GET', path())).body.plan;
const runs = async () =>
  (await bench.call<{ items: Recording[] }>('GET', `/api/gadgets/${gadget.id}/recordings?limit=50`)).body
    .items;
const log = async () =>
  (
    await bench.call<{ items: LogEntry[] }>('GET', `/api/gadgets/${gadget.id}/logbook?limit=50`)
  ).body.items.map((e) => e.text);
const linkIsUp = () =>
  until(
    () => Promise.resolve(bench.server.links.of(gadget.id)?.status.state),
    (state) => state === 'up',
  );

describe('runs that begin and end by themselves', () => {
  beforeAll(async () => {
    bench = await openBench({}, { now: () => new Date(nowMs).toISOString() });
    gadget = (
      await bench.call<Gadget>('POST', '/api/gadgets', { template: 'several-temperatures', name: 'Loft' })
    ).body;
    await bench.call('POST', `/api/gadgets/${gadget.id}/link`, SIMULATED);
    await bench.call('PATCH', `/api/gadgets/${gadget.id}/link`, { speed: 20, condition: 'hot' });
    await linkIsUp();
  });
  afterAll(() => bench.close());

  it('are refused in words where they say nothing, come too late, or would never end', async () => {
    for (const [change, rule] of [
      [{}, /neither a start time nor a stop condition/],
      [{ startAt: at(-5) }, /is in the past/],
      [{ daily: true, stopAfterS: 60 }, /needs a start time/],
      [{ startAt: at(60), daily: true }, /must end before the next/],
      [{ startAt: at(60), daily: true, stopAfterS: 90_000 }, /must end before the next/],
      [
        { stopAt: { channelId: 'gone', side: 'above', value: 1 } },
        /channel of the stop condition does not exist/,
      ],
    ] as const) {
      const { status, body } = await plan(change);
      expect([status, body.detail]).toEqual([422, expect.stringMatching(rule)]);
      expect(body.wayOut).not.toBe('');
    }
    expect((await plan({ stopAfterS: -1 })).status).toBe(422);
    expect(await planned()).toBeNull();
    expect((await bench.call('DELETE', path())).status).toBe(404);
  });

  it('begin at their time, each day by the calendar, and end after so many seconds of readings', async () => {
    expect((await plan({ startAt: at(30), daily: true, stopAfterS: 20 })).status).toBe(200);
    expect(await runs()).toEqual([]);
    nowMs += 31_000;
    const [run] = await until(runs, (all) => all.length === 1);
    expect(run!.name).toBe('Night, 2026-03-10');
    const next = (await planned())!.startAt!;
    expect(Date.parse(next) - (nowMs - 1000)).toBeGreaterThan(DAY_MS - 3_700_000);
    // The gadget is simulated twenty times as fast: its own seconds count.
    const [done] = await until(runs, (all) => all[0]!.state === 'closed');
    expect(done!.lastTimeS! - done!.firstTimeS!).toBeGreaterThanOrEqual(20);
    expect(await log()).toContainEqual(expect.stringMatching(/was stopped by the schedule: after 20 s/));
    // The next day again; and one that the bench slept through is told, and not begun late.
    nowMs = Date.parse(next) + 1000;
    await until(runs, (all) => all.length === 2);
    await until(runs, (all) => all.every((r) => r.state === 'closed'));
    nowMs += 3 * DAY_MS + 7_200_000;
    await until(log, (texts) => texts.some((t) => /did not start: the server was not running/.test(t)));
    expect(await runs()).toHaveLength(2);
    expect(Date.parse((await planned())!.startAt!)).toBeGreaterThan(nowMs);
    expect((await bench.call('DELETE', path())).status).toBe(204);
    expect(await planned()).toBeNull();
  });

  it('end at a level, those begun by hand as well', async () => {
    await plan({ stopAt: { channelId: 'p1', side: 'above', value: 300 } });
    await bench.call('POST', `/api/gadgets/${gadget.id}/recordings`, { name: 'By hand' });
    await until(runs, (all) => all[0]!.state === 'recording' && all[0]!.sampleCount > 100);
    await plan({ stopAt: { channelId: 'p1', side: 'above', value: 5 } });
    const [run] = await until(runs, (all) => all[0]!.state === 'closed');
    expect(run!.name).toBe('By hand');
    expect(await log()).toContainEqual(
      expect.stringMatching(/stopped by the schedule: the reading was above 5/),
    );
    // The plan holds for the next one too.
    expect((await planned())!.stopAt).toEqual({ channelId: 'p1', side: 'above', value: 5 });
    await bench.call('DELETE', path());
  });

  it('do not begin without a link, say so, and leave nothing of a plan for once', async () => {
    await bench.call('DELETE', `/api/gadgets/${gadget.id}/link`);
    await plan({ startAt: at(10) });
    nowMs += 11_000;
    await until(log, (texts) => texts.some((t) => /did not start: there was no data from the link/.test(t)));
    expect(await planned()).toBeNull();
  });
});
