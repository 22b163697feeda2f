import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { calibrationFault } from '@lucky-needle/core/calibrate';
import { calibrationInUse, wholeLine } from '@lucky-needle/core/plan';
import type {
  Calibration,
  Evidence,
  EvidencePoint,
  Gadget,
  LogEntry,
  OwnReference,
  Problem,
  Recording,
} from '@lucky-needle/core/model';
import { openBench, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const create = async (template: string) =>
  (await bench.call<Gadget>('POST', '/api/gadgets', { template, name: template })).body;
const keep = (gadget: Gadget, evidence: Evidence, channelId = gadget.channels[0]!.id) =>
  bench.call<EvidencePoint & Problem>('POST', `/api/gadgets/${gadget.id}/evidence`, { channelId, evidence });
const calibrate = (gadget: Gadget, fit: string, evidenceIds: string[], channels = gadget.channels) =>
  bench.call<{ items: Calibration[] } & Problem>('POST', `/api/gadgets/${gadget.id}/guided-calibrations`, {
    channelIds: channels.map((c) => c.id),
    fit,
    evidenceIds,
    note: '',
  });
const versions = async (gadget: Gadget) =>
  (await bench.call<{ items: Calibration[] }>('GET', `/api/gadgets/${gadget.id}/calibrations`)).body.items;

const wave = (middle: number, size: number, lagS = 0) =>
  Array.from({ length: 2000 }, (_, i) => middle + size * Math.sin(2 * Math.PI * 50 * (i / 2000 - lagS)));
const rate = (readingHz: number): Evidence => ({
  kind: 'rate',
  title: 'Strobe',
  referenceHz: 10,
  uncertaintyHz: 0.01,
  readingHz,
  uReadingHz: 0.001,
  seconds: 60,
});

describe('evidence', () => {
  it('is on disk once it is answered, in the logbook, and left out with a reason', async () => {
    const gadget = await create('rotation');
    const kept = await keep(gadget, rate(9.8));
    expect(kept).toMatchObject({ status: 201, body: { excluded: null, evidence: { readingHz: 9.8 } } });
    const out = await bench.call<EvidencePoint>('PATCH', `/api/evidence/${kept.body.id}`, {
      excluded: 'the belt slipped',
    });
    expect(out.body.excluded).toBe('the belt slipped');
    const list = await bench.call<{ items: EvidencePoint[] }>('GET', `/api/gadgets/${gadget.id}/evidence`);
    expect(list.body.items).toEqual([out.body]);
    const log = await bench.call<{ items: LogEntry[] }>('GET', `/api/gadgets/${gadget.id}/logbook`);
    expect(log.body.items.map((e) => e.text).join('\n')).toMatch(
      /captured a rate comparison\. Strobe: reference 10\S* Hz, reading 9\.8\S* Hz\./,
    );
    expect(await calibrate(gadget, 'time-base', [kept.body.id])).toMatchObject({
      status: 422,
      body: { detail: 'No comparison saved yet.' },
    });
  });

  it.each<[string, Evidence, RegExp]>([
    [
      'a wave of a few samples',
      { kind: 'ac-middle', voltage: [1, 2], current: [1, 2] },
      /evidence\.voltage must NOT have fewer than 20 items/,
    ],
    ['a rate of nothing', rate(0), /evidence\.readingHz must be > 0/],
    [
      'two axes',
      { kind: 'rest', raw: [1, 2] as never, u: 1 },
      /evidence\.raw must NOT have fewer than 3 items/,
    ],
    ['a kind there is none of', { kind: 'dream' } as never, /evidence\.kind must be one of: rest, cloud/],
  ])('%s is refused by name', async (_, evidence, told) => {
    const { status, body } = await keep(await create('rotation'), evidence);
    expect(status).toBe(422);
    expect(JSON.stringify(body)).toMatch(told);
  });

  it('of a channel or a gadget that is not there is refused', async () => {
    const gadget = await create('rotation');
    expect((await keep(gadget, rate(9), 'nowhere')).status).toBe(404);
    expect((await keep({ ...gadget, id: 'gone' }, rate(9))).status).toBe(404);
    expect((await calibrate(gadget, 'time-base', ['gone'])).status).toBe(404);
    expect(
      (await calibrate(gadget, 'tea-leaves', [(await keep(gadget, rate(9.8))).body.id])).body.detail,
    ).toMatch(/Unknown fit "tea-leaves"/);
  });
});

describe('a guided calibration', () => {
  it('puts every channel of the same columns right at once, and none when one cannot be', async () => {
    const gadget = await create('motion-counter');
    const three = gadget.channels;
    expect(three.length).toBeGreaterThan(0);
    const ids: string[] = [];
    for (const axis of [0, 1, 2])
      for (const sign of [1, -1]) {
        const raw = [10, 20, 30].map((o, k) => o + (k === axis ? sign * 2048 : 0)) as [
          number,
          number,
          number,
        ];
        ids.push((await keep(gadget, { kind: 'rest', raw, u: 0.5 })).body.id);
      }
    expect((await calibrate(gadget, 'six-rests', ids.slice(0, 5))).status).toBe(422);
    expect(await versions(gadget)).toEqual([]);
    const { status, body } = await calibrate(gadget, 'six-rests', ids);
    expect(status).toBe(201);
    expect(body.items.map((c) => [c.channelId, c.state])).toEqual(three.map((c) => [c.id, 'in use']));
    for (const c of body.items) {
      expect(c.pointIds).toEqual(ids);
      expect(c.result.edits[0]!.params!['offset']).toEqual([10, 20, 30].map((v) => expect.closeTo(v, 6)));
    }
  });

  it('keeps what an earlier step found: middle, then lag, then scale', async () => {
    const gadget = await create('ac-power');
    const one = gadget.channels.slice(0, 1);
    const step = async (fit: string, evidence: Evidence) =>
      (await calibrate(gadget, fit, [(await keep(gadget, evidence)).body.id], one)).body.items[0]!;
    await step('ac-middle', { kind: 'ac-middle', voltage: wave(2060, 900), current: wave(2048, 3) });
    const lamps = { voltage: wave(2060, 900), current: wave(2048, 200, 0.0002) };
    await step('ac-lag', { kind: 'ac-lag', ...lamps });
    const last = await step('ac-scale', {
      kind: 'ac-scale',
      ...lamps,
      volts: { value: 12, uncertainty: 0.1 },
      amperes: { value: 1.5, uncertainty: 0.02 },
    });
    expect(last.number).toBe(3);
    const params = last.result.edits[0]!.params!;
    expect(params['voltageBias']).toBeCloseTo(2060, 0);
    expect(params['currentDelayUs']).toBeCloseTo(200, 0);
    expect(params['voltsPerUnit']).toBeCloseTo((12 * Math.SQRT2) / 900, 5);
    expect(last.result.parameters).toHaveLength(5);
    expect((await versions(gadget)).map((c) => c.state)).toEqual(['replaced', 'replaced', 'in use']);
  });

  it('is not put in use where no line can be read by it, and one of old that cannot is said so and opens', async () => {
    const gadget = await create('ac-power');
    const off = await keep(gadget, {
      kind: 'ac-lag',
      voltage: wave(2048, 1000),
      current: Array.from({ length: 2000 }, (_, i) => 2048 + ((i * 7919) % 5) - 2),
    });
    const refused = await calibrate(gadget, 'ac-lag', [off.body.id]);
    expect([refused.status, refused.body.detail]).toEqual([422, expect.stringContaining('noise')]);
    expect(await versions(gadget)).toEqual([]);
    // One that an earlier program kept: five milliseconds, beyond what its stage allows.
    const lag = await keep(gadget, {
      kind: 'ac-lag',
      voltage: wave(2048, 1000),
      current: wave(2048, 500, 3e-4),
    });
    await calibrate(gadget, 'ac-lag', [lag.body.id]);
    const [used] = (await versions(gadget)).filter((c) => c.channelId === 'p' && c.state === 'in use');
    const spoilt = JSON.parse(
      JSON.stringify(used!.result).replace(/"currentDelayUs":[\d.]+/g, '"currentDelayUs":-5107'),
    );
    await bench.server
      .knex('calibrations')
      .where({ id: used!.id })
      .update({ result: JSON.stringify(spoilt) });
    const power = gadget.channels.find((c) => c.id === 'p')!;
    const kept = await versions(gadget);
    expect(
      calibrationFault(
        power.line,
        kept.find((c) => c.id === used!.id)!,
      ),
    ).toMatch(/received -5107/);
    expect(wholeLine(gadget, power, kept)).toEqual(wholeLine(gadget, power, []));
    expect(calibrationInUse(gadget, power, kept)).toBeNull();
    expect((await bench.call('GET', `/api/gadgets/${gadget.id}/proof`)).status).toBe(200);
    // It is not put back either; a new one takes its place.
    const back = await bench.call<Problem>('POST', `/api/calibrations/${used!.id}/use`);
    expect([back.status, back.body.detail]).toEqual([
      422,
      expect.stringContaining('cannot be read with this calibration'),
    ]);
    expect((await calibrate(gadget, 'ac-lag', [lag.body.id])).status).toBe(201);
    expect(calibrationInUse(gadget, power, await versions(gadget))?.number).toBe(2);
  });

  it('is told of in every recording made under it', async () => {
    const gadget = await create('rotation');
    const channel = gadget.channels[0]!.id;
    const bring = async (name: string) =>
      (
        await bench.call<Recording>(
          'POST',
          `/api/gadgets/${gadget.id}/recordings/import?name=${name}`,
          `time [s],${gadget.channels[0]!.line.sources[0]!.column} raw [${gadget.channels[0]!.line.sources[0]!.unit}]\n0,1\n1,2\n2,3\n`,
          { 'Content-Type': 'text/csv' },
        )
      ).body;
    expect((await bring('before')).versions).toEqual({});
    await calibrate(gadget, 'time-base', [(await keep(gadget, rate(9.8))).body.id]);
    expect((await bring('after')).versions).toEqual({ [channel]: 1 });
  });
});

describe('references of one’s own', () => {
  const mass = {
    title: 'Brass kilogram',
    value: 1,
    uncertainty: 0.0005,
    unit: 'kg',
    checkedOn: '2026-05-04',
    goodForMonths: 24,
    note: '',
  };
  const list = async () =>
    (await bench.call<{ items: OwnReference[] }>('GET', '/api/references')).body.items.map((r) => r.title);

  it('stand on the shelf, are checked anew by version, taken off and put back', async () => {
    const added = await bench.call<OwnReference>('POST', '/api/references', mass);
    expect(added).toMatchObject({ status: 201, body: { ...mass, version: 1 } });
    const path = `/api/references/${added.body.id}`;
    const change = (checkedOn: string, version: number) =>
      bench.call<OwnReference & Problem>('PUT', path, { ...mass, checkedOn }, { 'If-Match': `"${version}"` });
    expect((await change('2026-11-20', 1)).body).toMatchObject({ version: 2, checkedOn: '2026-11-20' });
    expect(await change('2020-01-01', 1)).toMatchObject({ status: 412, body: { code: 'stale-version' } });
    expect(await list()).toEqual(['Brass kilogram']);
    expect((await bench.call('DELETE', path)).status).toBe(204);
    expect(await list()).toEqual([]);
    expect((await bench.call('DELETE', path)).status).toBe(404);
    expect((await bench.call<OwnReference>('POST', `${path}/restore`)).body.checkedOn).toBe('2026-11-20');
    expect(await list()).toEqual(['Brass kilogram']);
  });

  it.each([
    ['no uncertainty', { uncertainty: 0 }, /uncertainty/],
    ['no day', { checkedOn: 'lately' }, /checkedOn/],
    ['no day of any month', { checkedOn: '2026-13-40' }, /checkedOn/],
    ['a unit there is none of', { unit: 'stone' }, /unit/],
    ['no name', { title: '' }, /title/],
  ])('%s is refused by name', async (_, change, told) => {
    const { status, body } = await bench.call<Problem>('POST', '/api/references', { ...mass, ...change });
    expect(status).toBe(422);
    expect(JSON.stringify(body)).toMatch(told);
  });
});
