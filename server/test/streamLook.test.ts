import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Gadget, Problem, StreamLook } from '@lucky-needle/core/model';
import { openBench, SIMULATED, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

async function made(template: string): Promise<Gadget> {
  return (await bench.call<Gadget>('POST', '/api/gadgets', { template, name: template })).body;
}
const look = (id: string, query: string) =>
  bench.call<StreamLook & Problem>('GET', `/api/gadgets/${id}/stream-faults?${query}`);
const idsOf = ({ columns }: StreamLook) => columns.flatMap((c) => c.findings.map((f) => f.id));

describe('what is wrong with raw rows', () => {
  it('is told live: a probe that sticks, and lines that are lost', async () => {
    const { id } = await made('several-temperatures');
    expect((await look(id, 'channel=p1')).status).toBe(404);
    await bench.call('POST', `/api/gadgets/${id}/link`, SIMULATED);
    const drive = (change: object) => bench.call('PATCH', `/api/gadgets/${id}/link`, change);
    await drive({ speed: 20 });
    // Its noise moves it: nothing is stuck.
    await vi.waitFor(async () => expect((await look(id, 'channel=p1')).body.rows).toBeGreaterThan(100), {
      timeout: 20_000,
    });
    expect(idsOf((await look(id, 'channel=p1')).body)).not.toContain('stuck');
    await drive({ faults: { dropOuts: 0.2, noise: 0, stuck: 'p1' } });
    await vi.waitFor(
      async () => {
        expect(idsOf((await look(id, 'channel=p1')).body)).toEqual(
          expect.arrayContaining(['stuck', 'drop-outs']),
        );
      },
      { timeout: 20_000 },
    );
    expect(idsOf((await look(id, 'channel=p2')).body)).not.toContain('stuck');
  });

  it('is told of a run, by the converter of the line; what there is not is said', async () => {
    const { id } = await made('several-temperatures');
    const rows = Array.from({ length: 600 }, (_, t) => {
      const swing = Math.round(700 + 250 * Math.sin(t / 8));
      return `${t},${Math.min(850, swing)},700,${600 + (t % 3)},700`;
    });
    const run = await bench.call<{ id: string }>(
      'POST',
      `/api/gadgets/${id}/recordings/import?name=cut`,
      `time [s],p1 raw [count],p2 raw [count],p3 raw [count],p4 raw [count]\n${rows.join('\n')}\n`,
      { 'Content-Type': 'text/csv' },
    );
    const cut = (await look(id, `channel=p1&recording=${run.body.id}`)).body;
    expect(cut).toMatchObject({ rows: 600, seconds: 599 });
    // One a second is less than the brief asks of a probe; that is told behind.
    expect(idsOf(cut)).toEqual(['clipping', 'too-slow']);
    expect(idsOf((await look(id, `channel=p3&recording=${run.body.id}`)).body)).toEqual(['too-slow']);
    expect((await look(id, 'channel=p1&recording=none')).status).toBe(404);
    expect((await look(id, `channel=p9&recording=${run.body.id}`)).status).toBe(404);
    expect((await look(id, '')).status).toBe(422);
  });
});
