import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { EvidencePoint, Gadget, MadeLink, Problem } from '@lucky-needle/core/model';
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
  const feel = async (ppm: Readonly<Record<string, number>>, rows: number, slope = 0) => {
    const readings = Array.from({ length: rows }, (_, i) => ({
      t: seq / 2,
      seq: seq++,
      values: Object.fromEntries(
        IDS.map((id) => [column(id), countsOf(gadget, id, ppm[id]!) + Math.round(slope * i) + (i % 2)]),
      ),
    }));
    await bench.call('POST', `/api/push/${link.id}`, { readings }, { Authorization: `Bearer ${token}` });
  };
  const expose = (channelId: string, reading: number) =>
    bench.call<EvidencePoint & Problem>('POST', `/api/gadgets/${gadget.id}/exposures`, {
      channelId,
      reference: { kind: 'instrument', reading, uncertainty: Math.max(0.1, 0.02 * reading) },
    });
  const use = (typed: object[] = []) =>
    bench.call<Gadget & Problem>('POST', `/api/gadgets/${gadget.id}/cross-talk`, { channelIds: IDS, typed });
  return { gadget, feel, expose, use };
}

/** What each feels of one gas alone: a tenth on the others, or its clean air. */
const FELT = {
  ferment: { ferment: 120, ammonia: 12, solvent: 12 },
  ammonia: { ferment: 8, ammonia: 25, solvent: 5 },
  solvent: { ferment: 8, ammonia: 6, solvent: 60 },
} as const;

describe('what elements answer to each other', () => {
  it('is kept only where it means something', async () => {
    const { gadget, feel, expose, use } = await cellar();
    expect((await expose('ferment', 120)).body.detail).toMatch(/no 10 s of readings yet|No readings come/);
    await feel(FELT.ferment, 600);
    const told = async (channelId: string, reading: number, detail: RegExp) =>
      vi.waitFor(async () => expect((await expose(channelId, reading)).body.detail).toMatch(detail), {
        timeout: 20_000,
      });
    // Itself it reads far from what is there; nothing is there; what it is, it is not told.
    await told('ammonia', 25, /^Ammonia itself reads 1[12]/);
    await told('ferment', 0, /^Nothing of it is there/);
    expect((await expose('nobody', 1)).status).toBe(404);
    await feel(FELT.ferment, 60, 3);
    // Refused either way, but first for what moves.
    await told('solvent', 60, /still moves/);
    const { body, status } = await use();
    expect([status, body.detail]).toEqual([
      422,
      expect.stringMatching(/Ferment vapour, Ammonia, Solvent vapour/),
    ]);
    const evidence = await bench.call<{ items: unknown[] }>('GET', `/api/gadgets/${gadget.id}/evidence`);
    expect(evidence.body.items).toEqual([]);
  });

  it('is taken off all of them at once, by what was kept and typed, and alarms go by what is left', async () => {
    const { gadget, feel, expose, use } = await cellar();
    const alarm = { name: 'High', channelId: 'ammonia', unit: 'ppm', hysteresis: 1 } as const;
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
    for (const channel of body.channels) {
      const alone = channel.figures!.find((f) => f.id === channel.shows)!;
      expect(alone.kind).toBe('less-others');
      expect(alone.others).toEqual(IDS.filter((id) => id !== channel.id));
    }
    expect(body.alarms!.map((r) => r.figureId)).toEqual(['alone', null]);
    const weights = body.channels[1]!.figures!.at(-1)!.params as { own: number; weights: number[] };
    // Of the ferment vapour alone nothing is left on the ammonia's element; by its own weight it reads a little more.
    const felt = FELT.ferment;
    const left =
      weights.own * felt.ammonia + weights.weights[0]! * felt.ferment + weights.weights[1]! * felt.solvent;
    expect(Math.abs(left)).toBeLessThan(0.3);
    expect(weights.own).toBeGreaterThan(1);
    expect(weights.weights.every((w) => w < -0.05 && w > -0.15)).toBe(true);
    // Done again it takes the place of what was.
    expect((await use(typed)).body.channels[0]!.figures!.filter((f) => f.id === 'alone')).toHaveLength(1);
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
