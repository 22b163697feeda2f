import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type {
  EvidencePoint,
  Gadget,
  MadeLink,
  NowReading,
  Problem,
  Recording,
  RecordingReadings,
} from '@lucky-needle/core/model';
import { alarmRule } from './alarmRule.ts';
import { openBench, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const IDS = ['ferment', 'ammonia', 'solvent'] as const;
/** Counts of clean air by the template's own constants, and of ten times as much: Rs / R0 = (ppm / clean)^(1 / exponent). */
function countsOf(gadget: Gadget, channelId: string, ppm: number): number {
  const { stages } = gadget.channels.find((c) => c.id === channelId)!.line;
  const params = (kind: string) => stages.find((s) => s.kind === kind)!.params as Record<string, number>;
  const { factor, exponent } = params('power-law') as { factor: number; exponent: number };
  const { loadOhm, supplyV } = params('load-resistor') as { loadOhm: number; supplyV: number };
  const ohm = params('ratio-to-baseline')['baseline']! * (ppm / factor) ** (1 / exponent);
  return Math.round((4095 * ((supplyV * loadOhm) / (loadOhm + ohm))) / params('adc')['referenceV']!);
}

async function cellar() {
  const gadget = (await bench.call<Gadget>('POST', '/api/gadgets', { template: 'gas-watch', name: 'Cellar' }))
    .body;
  const { link, token } = (
    await bench.call<MadeLink>('POST', `/api/gadgets/${gadget.id}/link`, {
      settings: { kind: 'push' },
      mapping: null,
    })
  ).body;
  let seq = 0;
  const column = (id: string) => gadget.channels.find((c) => c.id === id)!.line.sources[0]!.column;
  /** So many rows in which each element feels so much, two a second. */
  const feel = (ppm: Readonly<Record<string, number>>, rows: number, slope = 0) =>
    push(
      Array.from({ length: rows }, (_, i) =>
        Object.fromEntries(
          IDS.map((id) => [column(id), countsOf(gadget, id, ppm[id]!) + Math.round(slope * i) + (i % 2)]),
        ),
      ),
    );
  let newest: Record<string, number> | null = null;
  const push = async (rows: Record<string, number>[]) => {
    newest = rows.at(-1)!;
    const readings = rows.map((values) => ({ t: seq / 2, seq: seq++, values }));
    await bench.call('POST', `/api/push/${link.id}`, { readings }, { Authorization: `Bearer ${token}` });
  };
  /** With one row more: a link that pushes is silent two seconds after its last. */
  const expose = async (channelId: string, reading: number) => {
    if (newest) await push([newest]);
    return exposeSilently(channelId, reading);
  };
  const exposeSilently = (channelId: string, reading: number) =>
    bench.call<EvidencePoint & Problem>('POST', `/api/gadgets/${gadget.id}/exposures`, {
      channelId,
      reference: { kind: 'instrument', reading, uncertainty: Math.max(0.1, 0.02 * reading) },
    });
  const use = (typed: object[] = []) =>
    bench.call<Gadget & Problem>('POST', `/api/gadgets/${gadget.id}/cross-talk`, { channelIds: IDS, typed });
  return { gadget, feel, expose, exposeSilently, use };
}

/** What each feels of one gas alone: a tenth on the others, or its clean air. */
const FELT = {
  ferment: { ferment: 120, ammonia: 12, solvent: 12 },
  ammonia: { ferment: 8, ammonia: 25, solvent: 5 },
  solvent: { ferment: 8, ammonia: 6, solvent: 60 },
} as const;

describe('what elements answer to each other', () => {
  it('is kept only where it means something', async () => {
    const { gadget, feel, expose, exposeSilently, use } = await cellar();
    expect((await expose('ferment', 120)).body.detail).toBe('No readings yet.');
    await feel(FELT.ferment, 600);
    const told = async (channelId: string, reading: number, detail: RegExp) =>
      vi.waitFor(async () => expect((await expose(channelId, reading)).body.detail).toMatch(detail), {
        timeout: 20_000,
      });
    // Itself it reads far from what is there; nothing is there; what it is, it is not told.
    await told('ammonia', 25, /^Ammonia reads 1[12]/);
    await told('ferment', 0, /^The level is 0/);
    expect((await expose('nobody', 1)).status).toBe(404);
    await feel(FELT.ferment, 60, 3);
    // Refused either way, but first for what moves.
    await told('solvent', 60, /is still changing/);
    // What was heard before it fell silent is not what is there now.
    await vi.waitFor(
      async () => expect((await exposeSilently('solvent', 60)).body.detail).toBe('No data from the link.'),
      { timeout: 20_000, interval: 200 },
    );
    const { body, status } = await use();
    expect([status, body.detail]).toEqual([
      422,
      expect.stringMatching(/Fermentation vapour, Ammonia, Solvent vapour/),
    ]);
    const evidence = await bench.call<{ items: unknown[] }>('GET', `/api/gadgets/${gadget.id}/evidence`);
    expect(evidence.body.items).toEqual([]);
  });

  it('is taken off all of them at once, by what was kept and typed, and alarms go by what is left', async () => {
    const { gadget, feel, expose, use } = await cellar();
    const alarm = { name: 'Height', channelId: 'ammonia', unit: 'ppm', hysteresis: 1 } as const;
    const alarms = [
      alarmRule({ ...alarm, id: 'high', limit: 20 }),
      alarmRule({ ...alarm, id: 'fault', kind: 'fault' }),
    ];
    await bench.call('PATCH', `/api/gadgets/${gadget.id}`, { alarms }, { 'If-Match': `"${gadget.version}"` });
    for (const id of IDS) {
      await feel(FELT[id], 600);
      await vi.waitFor(async () => expect((await expose(id, FELT[id][id])).status).toBe(201), {
        timeout: 20_000,
      });
    }
    const typed = [{ on: 'ferment', to: 'ammonia', answer: 0.05, u: 0.01 }];
    const { status, body } = await use(typed);
    expect(status).toBe(200);
    const stageOf = (of: Gadget, k: number) =>
      of.channels[k]!.line.stages.filter((s) => s.kind === 'less-others');
    body.channels.forEach((channel, k) => {
      const [less] = stageOf(body, k);
      expect(channel.line.stages.at(-1)).toBe(less);
      expect(less!.params['channels']).toBe(IDS.filter((id) => id !== channel.id).join(' '));
      expect(Object.keys(less!.uncertainty)).toEqual(['own', 'weights.0', 'weights.1']);
    });
    expect(body.alarms!.map((r) => r.figureId)).toEqual([null, null]);
    const { own, weights } = stageOf(body, 1)[0]!.params as { own: number; weights: number[] };
    // Of the ferment vapour alone nothing is left on the ammonia's element; by its own weight it reads a little more.
    const felt = FELT.ferment;
    expect(
      Math.abs(own * felt.ammonia + weights[0]! * felt.ferment + weights[1]! * felt.solvent),
    ).toBeLessThan(0.3);
    expect(own).toBeGreaterThan(1);
    expect(weights.every((w) => w < -0.05 && w > -0.15)).toBe(true);
    // The needle, a recording's curve and its export all read what is left.
    const now = async () =>
      (await bench.call<{ channels: NowReading[] }>('GET', `/api/gadgets/${gadget.id}/now`)).body.channels;
    await vi.waitFor(
      async () => {
        await feel(felt, 20);
        expect(Math.abs((await now())[1]!.value!)).toBeLessThan(0.5);
      },
      { timeout: 20_000 },
    );
    const columns = body.channels.map((c) => c.line.sources[0]!.column);
    const row = IDS.map((id) => countsOf(gadget, id, felt[id])).join();
    const text = `time [s],${columns.map((c) => `${c} [count]`).join()}\n${Array.from({ length: 50 }, (_, t) => `${t},${row}`).join('\n')}\n`;
    const imported = await fetch(`${bench.server.url}/api/gadgets/${gadget.id}/recordings/import?name=felt`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/csv' },
      body: text,
    });
    const { id: runId } = (await imported.json()) as Recording;
    const curve = await bench.call<RecordingReadings>(
      'GET',
      `/api/recordings/${runId}/readings?channel=ammonia`,
    );
    expect(curve.body.good).toBe(50);
    expect(Math.abs(curve.body.mean!)).toBeLessThan(0.5);
    const csv = (await bench.call<string>('GET', `/api/recordings/${runId}/export/csv`)).body;
    const [head, first] = csv.split('\n').filter((l) => !l.startsWith('#'));
    const at = head!.split(',').findIndex((name) => /^"?Ammonia/.test(name));
    expect(Math.abs(Number(first!.split(',')[at]))).toBeLessThan(0.5);
    // What was recorded of the link goes on with what its lines, and those beside them, remembered.
    const recording = await bench.call<Recording>('POST', `/api/gadgets/${gadget.id}/recordings`, {
      name: 'Captured',
    });
    expect(recording.status).toBe(201);
    await feel(felt, 40);
    const kept = async () =>
      (
        await bench.call<RecordingReadings>(
          'GET',
          `/api/recordings/${recording.body.id}/readings?channel=ammonia`,
        )
      ).body;
    await vi.waitFor(async () => expect((await kept()).good).toBeGreaterThan(20), { timeout: 20_000 });
    await bench.call('POST', `/api/recordings/${recording.body.id}/stop`);
    expect(Math.abs((await kept()).mean!)).toBeLessThan(0.5);
    // Exposed again it is what they feel that counts; done again it takes the place of what was.
    await feel(FELT.solvent, 600);
    await vi.waitFor(async () => expect((await expose('solvent', 60)).status).toBe(201), { timeout: 20_000 });
    const again = (await use(typed)).body;
    expect(again.channels.map((_, k) => stageOf(again, k).length)).toEqual([1, 1, 1]);
    const after = stageOf(again, 1)[0]!.params as { own: number };
    expect(after.own).toBeCloseTo(own, 2);
    // One that others take cannot go.
    const gone = await bench.call<Problem>(
      'PATCH',
      `/api/gadgets/${gadget.id}`,
      { channels: again.channels.slice(1), brief: again.brief },
      { 'If-Match': `"${again.version}"` },
    );
    expect([gone.status, gone.body.detail]).toEqual([
      422,
      expect.stringMatching(/“ferment”, which does not exist/),
    ]);
    expect(
      (
        await bench.call('POST', `/api/gadgets/${gadget.id}/cross-talk`, {
          channelIds: ['x', 'y'],
          typed: [],
        })
      ).status,
    ).toBe(404);
  });
});
