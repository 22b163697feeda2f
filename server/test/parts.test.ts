import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Gadget, OwnPart, Part, PartsImported, Problem } from '@lucky-needle/core/model';
import { partsFromCsv, partsFromJson, SHELF } from '@lucky-needle/core/plan';
import { openBench, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const probe = SHELF.find((p) => p.id === 'ntc-bead-10k')!;
const own = (id: string, change: object = {}) => ({ ...probe, id, title: `Probe ${id}`, ...change }) as Part;
const list = async () => (await bench.call<{ items: OwnPart[] }>('GET', '/api/parts')).body.items;
const put = (part: Part, version: number) =>
  bench.call<OwnPart & Problem>('PUT', `/api/parts/${part.id}`, part, { 'If-Match': `"${version}"` });
const send = (text: string, format: string) =>
  bench.call<PartsImported & Problem>('POST', `/api/parts-file?format=${format}`, text, {
    'Content-Type': 'text/plain',
  });

describe('parts of one’s own', () => {
  it('are added, changed by version, taken off the shelf and brought back', async () => {
    expect(await bench.call('POST', '/api/parts', own('mine'))).toMatchObject({
      status: 201,
      body: { version: 1 },
    });
    expect(await put(own('mine', { price: 9 }), 1)).toMatchObject({ status: 200, body: { version: 2 } });
    expect(await put(own('mine', { price: 8 }), 1)).toMatchObject({
      status: 412,
      body: { code: 'stale-version' },
    });
    expect((await list()).find((o) => o.part.id === 'mine')!.part.price).toBe(9);
    expect((await bench.call('DELETE', '/api/parts/mine')).status).toBe(204);
    expect((await list()).some((o) => o.part.id === 'mine')).toBe(false);
    expect((await bench.call('DELETE', '/api/parts/mine')).status).toBe(404);
    expect((await bench.call('POST', '/api/parts/mine/restore')).status).toBe(200);
    expect((await list()).some((o) => o.part.id === 'mine')).toBe(true);
  });

  it('take no id of the bench’s own, none that is in use, and none that cannot be', async () => {
    await bench.call('POST', '/api/parts', own('taken'));
    for (const id of ['taken', 'ntc-bead-10k'])
      expect(await bench.call('POST', '/api/parts', own(id))).toMatchObject({
        status: 409,
        body: { code: 'id-in-use', field: 'id' },
      });
    expect(await bench.call('POST', '/api/parts', own('bad id'))).toMatchObject({ status: 422 });
    expect(await put({ ...own('taken'), id: 'other' } as Part, 1)).toMatchObject({ status: 404 });
    expect(await bench.call('PUT', '/api/parts/taken', own('other'), { 'If-Match': '"1"' })).toMatchObject({
      status: 422,
      body: { code: 'id-fixed' },
    });
  });

  it('are refused by the rules that no schema can tell', async () => {
    expect(await bench.call<Problem>('POST', '/api/parts', own('flat', { low: 5, high: 5 }))).toMatchObject({
      status: 422,
      body: { code: 'invalid-part', field: 'high', detail: expect.stringMatching(/must be above/) },
    });
  });

  it('can be picked; a pick outlives its part, but a new one must lie on the shelf', async () => {
    await bench.call('POST', '/api/parts', own('fleeting'));
    const gadget = (
      await bench.call<Gadget>('POST', '/api/gadgets', { template: 'several-temperatures', name: 'G' })
    ).body;
    const patch = (body: object, version: number) =>
      bench.call<Gadget>('PATCH', `/api/gadgets/${gadget.id}`, body, { 'If-Match': `"${version}"` });
    const pick = { slot: 'temperature', partId: 'fleeting', converterId: null, reason: '' };
    expect((await patch({ picks: [pick] }, 1)).status).toBe(200);
    await bench.call('DELETE', '/api/parts/fleeting');
    expect((await patch({ picks: [{ ...pick, reason: 'still the best' }] }, 2)).status).toBe(200);
    expect((await patch({ picks: [{ ...pick, slot: 'board' }] }, 3)).status).toBe(422);
  });
});

describe('a file of parts', () => {
  it('keeps the good rows, reports three bad ones, and replaces what was there', async () => {
    const csv = [
      'kind,id,title,price,measurand,unit,low,high,signal,step,rateHz',
      'sensor,from-file,Probe,3,temperature,degC,-10,120,number,0.1,5',
      'sensor,upside-down,Bad,3,temperature,degC,50,10,number,0.1,5',
      'sensor,no-price,Bad,cheap,temperature,degC,0,10,number,0.1,5',
      'gizmo,odd,Bad,1,temperature,degC,0,10,number,0.1,5',
    ];
    const first = await send(csv.join('\n'), 'csv');
    expect(first.body).toMatchObject({ added: ['from-file'], replaced: [] });
    expect(first.body.issues.map((i) => [i.row, i.field])).toEqual([
      [2, 'high'],
      [3, 'price'],
      [4, 'kind'],
    ]);
    const second = await send(csv.slice(0, 2).join('\n').replace(',3,', ',4,'), 'csv');
    expect(second.body).toEqual({ added: [], replaced: ['from-file'], issues: [] });
    expect((await list()).find((o) => o.part.id === 'from-file')).toMatchObject({
      version: 2,
      part: { price: 4 },
    });
  });

  it('goes out and comes back: own parts, or the whole shelf', async () => {
    await bench.call('POST', '/api/parts', own('traveller'));
    const csv = (await bench.call<string>('GET', '/api/parts-file?format=csv')).body;
    expect(partsFromCsv(csv).parts.map((p) => p.id)).toContain('traveller');
    const whole = await bench.call<object>('GET', '/api/parts-file?format=json&whole=1');
    expect(whole.headers.get('content-disposition')).toContain('parts.json');
    const { parts, issues } = partsFromJson(JSON.stringify(whole.body));
    expect(issues).toEqual([]);
    expect(parts.length).toBe(SHELF.length + (await list()).length);
    // Brought back as it is, the bench's own parts need no word.
    const back = await send(JSON.stringify(whole.body), 'json');
    expect(back.body.issues).toEqual([]);
    expect(back.body.added).toEqual([]);
  });

  it('may not change the bench’s own parts, nor be of a form that is not there, nor be huge', async () => {
    const changed = JSON.stringify([{ ...probe, price: 1 }]);
    expect((await send(changed, 'json')).body.issues[0]!.message).toMatch(/a built-in part/);
    expect((await send('x', 'xml')).body).toMatchObject({ code: 'invalid-query', field: 'format' });
    expect((await send('x'.repeat(2_100_000), 'csv')).status).toBe(413);
  });
});
