import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type {
  Calibration,
  Evidence,
  EvidencePoint,
  Gadget,
  GatheringNow,
  Problem,
  TakenEvidence,
} from '@lucky-needle/core/model';
import { openBench, SIMULATED, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

async function linked(template: string, condition: string, speed: number): Promise<string> {
  const { id } = (await bench.call<Gadget>('POST', '/api/gadgets', { template, name: template })).body;
  await bench.call('POST', `/api/gadgets/${id}/link`, SIMULATED);
  await bench.call('PATCH', `/api/gadgets/${id}/link`, { condition, speed });
  return id;
}
const act = (id: string, channelId: string, kind: string, what: string) =>
  bench.call<GatheringNow & Problem>('POST', `/api/gadgets/${id}/gathering`, { channelId, kind, act: what });
const look = async (id: string, channelId: string, kind: string) =>
  (await bench.call<GatheringNow>('GET', `/api/gadgets/${id}/gathering?channel=${channelId}&kind=${kind}`))
    .body;
const take = (id: string, channelId: string, taking: object) =>
  bench.call<TakenEvidence & Problem>('POST', `/api/gadgets/${id}/taken`, { channelId, taking });
const listed = async <T>(id: string, what: string) =>
  (await bench.call<{ items: T[] }>('GET', `/api/gadgets/${id}/${what}`)).body.items;

/** A vane that is turned all round until more rows than so many of it are gathered: its id and its channel's. */
async function turned(rows: number): Promise<[id: string, channelId: string]> {
  const id = await linked('heading', 'rotate', 20);
  const channelId = (await bench.call<Gadget>('GET', `/api/gadgets/${id}`)).body.channels[0]!.id;
  await vi.waitFor(async () => expect((await act(id, channelId, 'cloud', 'start')).status).toBe(200), {
    timeout: 20_000,
  });
  await vi.waitFor(async () => expect((await look(id, channelId, 'cloud')).rows).toBeGreaterThan(rows), {
    timeout: 40_000,
    interval: 200,
  });
  return [id, channelId];
}

describe('what the server gathers for guided true-ups', () => {
  it('keeps nothing of a gadget that is thrown away, whatever is put back', async () => {
    const [id, channelId] = await turned(1);
    await bench.call('DELETE', `/api/gadgets/${id}`);
    await bench.call('POST', `/api/gadgets/${id}/restore`);
    expect(await look(id, channelId, 'cloud')).toMatchObject({ isOn: false, rows: 0 });
  });

  it('goes on with no page open, stops, goes on and is forgotten; a turn is kept and put in use in one act', async () => {
    const [id, channelId] = await turned(1500);
    const stopped = (await act(id, channelId, 'cloud', 'stop')).body;
    expect(stopped.cloud[0]).toHaveLength(3);
    expect((await look(id, channelId, 'cloud')).rows).toBe(stopped.rows);
    const use = (evidence: object[], fit = 'turned') =>
      bench.call<{ items: Calibration[] } & Problem>('POST', `/api/gadgets/${id}/guided-calibrations`, {
        channelIds: [channelId],
        fit,
        evidenceIds: [],
        evidence,
        note: '',
      });
    // Too few of them say nothing, and nothing of that act is kept.
    const few = await use([{ kind: 'cloud', rows: stopped.cloud.slice(0, 5) }]);
    expect([few.status, (await listed(id, 'evidence')).length]).toEqual([422, 0]);
    const used = await use([{ kind: 'cloud', rows: stopped.cloud }]);
    expect(used.status).toBe(201);
    const [kept] = await listed<EvidencePoint>(id, 'evidence');
    expect(used.body.items[0]).toMatchObject({ state: 'in use', pointIds: [kept!.id] });
    expect((await act(id, channelId, 'cloud', 'start')).body.rows).toBeGreaterThanOrEqual(stopped.rows);
    expect((await act(id, channelId, 'cloud', 'forget')).body).toMatchObject({ isOn: false, rows: 0 });
  });

  it('takes a rest only while it rests, and a side that is done again takes the place of what was', async () => {
    const id = await linked('motion-counter', 'z-up', 5);
    const channel = (await bench.call<Gadget>('GET', `/api/gadgets/${id}`)).body.channels[0]!;
    const rest = () => take(id, channel.id, { kind: 'rest' });
    await vi.waitFor(async () => expect((await rest()).status).toBe(200), { timeout: 20_000 });
    const { evidence } = (await rest()).body;
    const keep = (replaces: string[]) =>
      bench.call<EvidencePoint>('POST', `/api/gadgets/${id}/evidence`, {
        channelId: channel.id,
        evidence,
        replaces,
      });
    const first = (await keep([])).body;
    await keep([first.id]);
    expect((await listed<EvidencePoint>(id, 'evidence')).map((e) => e.excluded)).toEqual([
      'replaced by a new capture',
      null,
    ]);
    expect((await keep(['nobody'])).status).toBe(404);
    expect(await listed(id, 'evidence')).toHaveLength(2);
    await bench.call('PATCH', `/api/gadgets/${id}/link`, { condition: 'shaking', speed: 20 });
    await vi.waitFor(
      async () => expect((await rest()).body.detail).toMatch(/^The sensor is moving: the readings vary by/),
      {
        timeout: 20_000,
      },
    );
  });

  it('takes a course only while it is held still, against a reference that means something', async () => {
    const north = { kind: 'instrument', reading: 0, uncertainty: 1 };
    /** What a vane that is held still answers, once it answers. */
    const held = async () => {
      const id = await linked('heading', 'north', 5);
      const channelId = (await bench.call<Gadget>('GET', `/api/gadgets/${id}`)).body.channels[0]!.id;
      const course = (reference: object) => take(id, channelId, { kind: 'bearing', reference });
      let evidence: Evidence | undefined;
      let refused = '';
      await vi.waitFor(
        async () => {
          const { body } = await course(north);
          ({ evidence } = body);
          refused = body.detail;
          expect(evidence !== undefined || refused.startsWith('The heading varies by'), refused).toBe(true);
        },
        { timeout: 20_000 },
      );
      return { id, course, evidence };
    };
    // Of one vane in a hundred the iron beside it leaves hardly a field, and it is noise: another one then.
    let vane = await held();
    for (let k = 0; k < 3 && !vane.evidence; k++) vane = await held();
    const { id, course, evidence } = vane;
    expect(evidence).toMatchObject({ kind: 'bearing', referenceDeg: 0, uncertaintyDeg: 1 });
    // As the needle shows it, which nobody has turned yet.
    const now = await bench.call<{ channels: { value: number }[] }>('GET', `/api/gadgets/${id}/now`);
    const { shownDeg, uShownDeg } = evidence as Extract<Evidence, { kind: 'bearing' }>;
    expect(Math.abs(((shownDeg - now.body.channels[0]!.value + 540) % 360) - 180)).toBeLessThan(5);
    expect(uShownDeg).toBeGreaterThan(0);
    const here = { latitudeDeg: 50, longitudeDeg: 8 };
    expect((await course({ kind: 'bearing', from: here, to: here, positionM: 5 })).status).toBe(422);
    await bench.call('PATCH', `/api/gadgets/${id}/link`, { condition: 'rotate', speed: 20 });
    await vi.waitFor(
      async () => expect((await course(north)).body.detail).toMatch(/^The heading varies by/),
      {
        timeout: 20_000,
      },
    );
  });

  it('says what is missing', async () => {
    const { id, channels } = (
      await bench.call<Gadget>('POST', '/api/gadgets', { template: 'displacement', name: 'Roller' })
    ).body;
    const channelId = channels[0]!.id;
    expect((await act(id, channelId, 'drag', 'start')).body.detail).toBe('This gadget has no link.');
    expect((await take(id, channelId, { kind: 'rest' })).status).toBe(422);
    expect((await act(id, 'nobody', 'drag', 'start')).status).toBe(404);
    expect(await look(id, channelId, 'drag')).toMatchObject({ isOn: false, rows: 0 });
    const wrong = await bench.call<Problem>(
      'GET',
      `/api/gadgets/${id}/gathering?channel=${channelId}&kind=mood`,
    );
    expect([wrong.status, wrong.body.field]).toEqual([422, 'kind']);
  });
});
