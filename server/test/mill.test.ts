import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { calibratedLine, fitPoint, judgeChecks } from '@lucky-needle/core/calibrate';
import { decodeReadings, decodeSampleBlock, isReadings } from '@lucky-needle/core/formats';
import { compileLine, readingAtRest } from '@lucky-needle/core/line';
import type {
  Calibration,
  CalibrationPoint,
  DueItem,
  Gadget,
  Link,
  Recording,
  ServerMessage,
} from '@lucky-needle/core/model';
import {
  assignPins,
  busPlan,
  contradictionsOf,
  planOf,
  powerPlan,
  rankSlot,
  SHELF,
} from '@lucky-needle/core/plan';
import { KILN_TRUTH } from '@lucky-needle/demo';
import { openBench, until, type TestBench } from './bench.ts';

let bench: TestBench;
let mill: Gadget[];
let gadget: Gadget;
beforeAll(async () => {
  bench = await openBench({}, { demo: true });
  mill = (await bench.call<{ items: Gadget[] }>('GET', '/api/gadgets')).body.items;
  gadget = mill[0]!;
});
afterAll(() => bench.close());

describe('Quillmere Mill', () => {
  it('has a C header for every channel of its fourteen gadgets', async () => {
    for (const { id, channels } of mill)
      for (const channel of channels) {
        const response = await fetch(`${bench.server.url}/api/gadgets/${id}/channels/${channel.id}/header`);
        const text = await response.text();
        expect(response.status, `${channel.name}: ${text}`).toBe(200);
        expect(text).toContain('_convert(');
      }
  });

  it('tells what is due for a check, as a list and as a calendar, when a maker has said how often', async () => {
    const due = async () =>
      (await bench.call<{ items: DueItem[] }>('GET', '/api/due')).body.items.filter(
        (d) => d.gadgetId === gadget.id,
      );
    const [before] = await due();
    expect(before).toMatchObject({ kind: 'calibration', channelId: 'p1', overdue: false });
    const path = `/api/calibrations/${before!.id}`;
    expect((await bench.call('PATCH', path, { goodForMonths: 0 })).status).toBe(422);
    expect((await bench.call('PATCH', '/api/calibrations/none', { goodForMonths: 3 })).status).toBe(404);
    const said = await bench.call<Calibration>('PATCH', path, { goodForMonths: 3 });
    expect(said.body).toMatchObject({ number: 1, goodForMonths: 3 });
    const [after] = await due();
    expect(Date.parse(before!.dueOn) - Date.parse(after!.dueOn)).toBeGreaterThan(270 * 86_400_000);
    const log = await bench.call<{ items: { text: string }[] }>('GET', `/api/gadgets/${gadget.id}/logbook`);
    expect(log.body.items.map((e) => e.text).join()).toContain('is due for a check after 3 months');
    const calendar = await fetch(`${bench.server.url}/api/due/calendar`);
    expect(calendar.headers.get('content-type')).toMatch(/^text\/calendar/);
    const text = await calendar.text();
    expect(text).toContain(`DTSTART;VALUE=DATE:${after!.dueOn.replaceAll('-', '')}`);
    expect(text).toContain('SUMMARY:Calibrate Drying-kiln probes');
  });

  it('comes with a probe that was trued up by the same rules as a maker’s own', async () => {
    const points = (
      await bench.call<{ items: CalibrationPoint[] }>('GET', `/api/gadgets/${gadget.id}/points`)
    ).body.items;
    const calibrations = (
      await bench.call<{ items: Calibration[] }>('GET', `/api/gadgets/${gadget.id}/calibrations`)
    ).body.items;
    const channel = gadget.channels[0]!;
    const { line, calibration } = calibratedLine(channel.line, channel.id, calibrations);
    expect(calibration!.number).toBe(1);
    const checks = points.filter((p) => p.role === 'check').map((p) => fitPoint(p, 'degC'));
    const compiled = compileLine(line, { sampleRateHz: 10 });
    expect(judgeChecks(compiled, checks, 1, 'degC').map((c) => c.verdict.state)).toEqual(['pass']);
    expect(readingAtRest(compiled, points[0]!.capture.mean)).toBeCloseTo(points[0]!.worth.value, 0);
  });

  it('has a finished run, and can be loaded again beside itself', async () => {
    const runs = (await bench.call<{ items: Recording[] }>('GET', `/api/gadgets/${gadget.id}/recordings`))
      .body.items;
    expect(runs).toMatchObject([{ state: 'closed', sampleCount: 54_000 }]);
    expect((await bench.call<Gadget>('POST', '/api/mill')).status).toBe(201);
    expect((await bench.call<{ total: number }>('GET', '/api/gadgets')).body.total).toBe(28);
  });

  it('never tells its hidden constants', async () => {
    const link = await bench.call<Link>('GET', `/api/gadgets/${gadget.id}/link`);
    const said = JSON.stringify(link.body);
    for (const probe of KILN_TRUTH.probes) expect(said).not.toContain(String(probe.seriesOhm));
    expect(said).not.toContain('truth');
  });
});

describe('the fourteen gadgets of the mill', () => {
  it('stand one for each family, each with a brief, picks with reasons, and a link that gives readings', async () => {
    expect(mill).toHaveLength(14);
    expect(new Set(mill.map((g) => g.template)).size).toBe(14);
    for (const g of mill) {
      const link = (await bench.call<Link | null>('GET', `/api/gadgets/${g.id}/link`)).body;
      expect([g.name, link?.kind]).toEqual([g.name, 'simulated']);
      expect(g.picks.every((k) => k.reason.length > 10)).toBe(true);
      const sensed = g.brief!.asks.filter((a) => a.measurand !== 'worked out');
      for (const slot of [...sensed.map((a) => a.id), 'board', 'supply'])
        expect([g.name, g.picks.some((k) => k.slot === slot)]).toEqual([g.name, true]);
    }
  });

  it('contradict themselves nowhere, fit their pins, and turn something down for a reason', () => {
    for (const g of mill) {
      const plan = planOf(g, SHELF)!;
      expect([g.name, contradictionsOf(plan)]).toEqual([g.name, []]);
      const { conflicts, unmet } = assignPins(plan, plan.board!);
      expect([g.name, conflicts, unmet]).toEqual([g.name, [], []]);
      expect([g.name, powerPlan(plan)!.budget.problems]).toEqual([g.name, []]);
      expect([g.name, busPlan(plan).crossings.filter((c) => c.kind === 'harm')]).toEqual([g.name, []]);
      const slots = [
        ...plan.sensing.filter((s) => s.part).map((s) => s.ask.id),
        'board',
        'display',
        'supply',
      ];
      const ranked = slots.map((slot) => ({ slot, candidates: rankSlot(plan, slot) }));
      const turnedDown = ranked.flatMap(({ candidates }) => candidates.filter((c) => c.failed));
      expect([g.name, turnedDown.length > 0]).toEqual([g.name, true]);
      // What stands is never what the verdicts rule out.
      for (const { slot, candidates } of ranked) {
        const pick = g.picks.find((k) => k.slot === slot);
        const own = candidates.find(
          (c) => c.part.id === pick?.partId && (c.converter?.id ?? null) === pick.converterId,
        );
        if (pick) expect([g.name, slot, own?.failed]).toEqual([g.name, slot, false]);
      }
    }
  });
});

describe('the live socket', () => {
  it('sends samples as binary blocks and the state of the link as messages', async () => {
    const socket = new WebSocket(`${bench.server.url.replace('http', 'ws')}/api/live`);
    socket.binaryType = 'arraybuffer';
    const messages: ServerMessage[] = [];
    let samples = 0;
    let readings = 0;
    socket.onmessage = (event) => {
      if (typeof event.data === 'string') messages.push(JSON.parse(event.data) as ServerMessage);
      else if (isReadings(event.data as ArrayBuffer))
        readings += decodeReadings(event.data as ArrayBuffer).parts.reduce((n, p) => n + p.times.length, 0);
      else samples += decodeSampleBlock(event.data as ArrayBuffer).header.count;
    };
    await new Promise((done) => (socket.onopen = done));
    socket.send('gibberish');
    socket.send(JSON.stringify({ type: 'watch', gadgetId: gadget.id }));
    await until(
      () => Math.min(samples, readings),
      (n) => n > 10,
    );
    expect(messages[0]).toMatchObject({ type: 'refused' });
    expect(messages.find((m) => m.type === 'bench')).toMatchObject({ sampleRateHz: 10 });
    const status = await until(
      () => messages.findLast((m) => m.type === 'status'),
      (m) => m !== undefined,
    );
    expect(status).toMatchObject({ status: { state: 'up', badLines: 0, lost: 0, speed: 1 } });
    await bench.call('PATCH', `/api/gadgets/${gadget.id}/link`, { condition: 'ice' });
    await until(() => messages.some((m) => m.type === 'changed' && m.what === 'link'), Boolean);
    expect((await bench.call('PATCH', `/api/gadgets/${gadget.id}/link`, { condition: 'lava' })).status).toBe(
      422,
    );
    socket.close();
  });

  it('is closed to a foreign page', async () => {
    const socket = new WebSocket(`${bench.server.url.replace('http', 'ws')}/api/live`, {
      origin: 'http://elsewhere.example',
    });
    const refused = await new Promise((done) => socket.once('error', done));
    expect(String(refused)).toContain('403');
  });
});
