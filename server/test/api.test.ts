import { request } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Calibration, CalibrationPoint, Gadget, LogEntry, Problem } from '@lucky-needle/core/model';
import type { TSchema } from 'typebox';
import { answerCheck } from '../src/http/validate.ts';
import { alarmRule } from './alarmRule.ts';
import { openBench, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const create = async (template = 'several-temperatures') =>
  (await bench.call<Gadget>('POST', '/api/gadgets', { template, name: 'Probes' })).body;
const patch = (gadget: Gadget, body: object, version = gadget.version) =>
  bench.call<Gadget & Problem>('PATCH', `/api/gadgets/${gadget.id}`, body, { 'If-Match': `"${version}"` });

/** The brief with its one ask changed. */
const asked = (g: Gadget, change: object) => ({
  brief: { ...g.brief, asks: [{ ...g.brief!.asks[0], ...change }] },
});

const HIGH = alarmRule({
  id: 'hot',
  name: 'Hot',
  channelId: 'p1',
  unit: 'degC',
  caution: 70,
  limit: 80,
  hysteresis: 1,
  sounder: 'beeps',
});

describe('gadgets', () => {
  it('starts from a template, is listed, changed, deleted and brought back', async () => {
    const gadget = await create();
    expect(gadget).toMatchObject({ version: 1, name: 'Probes', sampleRateHz: 10 });
    const changed = await patch(gadget, { name: 'Kiln' });
    expect(changed).toMatchObject({ status: 200, body: { version: 2, name: 'Kiln' } });
    expect((await bench.call('DELETE', `/api/gadgets/${gadget.id}`)).status).toBe(204);
    expect((await bench.call('GET', `/api/gadgets/${gadget.id}`)).status).toBe(404);
    expect((await bench.call<Gadget>('POST', `/api/gadgets/${gadget.id}/restore`)).body.name).toBe('Kiln');
  });

  it('pages its lists', async () => {
    await create();
    const page = await bench.call<{ items: Gadget[]; total: number }>('GET', '/api/gadgets?limit=1&offset=1');
    expect(page.body.items).toHaveLength(1);
    expect(page.body.total).toBeGreaterThan(1);
    expect((await bench.call('GET', '/api/gadgets?limit=0')).status).toBe(422);
    expect((await bench.call('GET', '/api/gadgets?limit=many')).status).toBe(422);
  });

  it('refuses a stale version with 412, a missing one with 428, and keeps what is stored', async () => {
    const gadget = await create();
    await patch(gadget, { name: 'First' });
    const late = await patch(gadget, { name: 'Second' });
    expect(late).toMatchObject({
      status: 412,
      body: { code: 'stale-version', detail: expect.stringContaining('but version 2 is the latest') },
    });
    expect(late.headers.get('content-type')).toContain('application/problem+json');
    expect((await bench.call('PATCH', `/api/gadgets/${gadget.id}`, { name: 'x' })).status).toBe(428);
    expect((await bench.call<Gadget>('GET', `/api/gadgets/${gadget.id}`)).body.name).toBe('First');
  });

  it('lets only one of two racing writers win', async () => {
    const gadget = await create();
    const answers = await Promise.all(['a', 'b', 'c', 'd'].map((name) => patch(gadget, { name })));
    expect(answers.map((a) => a.status).sort()).toEqual([200, 412, 412, 412]);
  });

  it.each<[string, (g: Gadget) => object, string, RegExp]>([
    ['an unknown field', () => ({ colour: 'red' }), '', /additional properties \("colour"\)/],
    ['an empty name', () => ({ name: '' }), 'name', /fewer than 1 characters/],
    ['nothing', () => ({}), '', /fewer than 1 propert/],
    ['a unit there is none of', (g) => asked(g, { unit: 'smoot' }), 'brief.asks.0.unit', /brief/],
    ['a range upside down', (g) => asked(g, { low: 200 }), 'brief.asks.0.high', /110 is not above 200 °C/],
    [
      'a line that cannot run',
      (g) => ({
        channels: g.channels.map((c) => ({ ...c, line: { ...c.line, stages: c.line.stages.slice(1) } })),
      }),
      'channels.0.line.divider',
      /Probe 1: Voltage divider needs ratio/,
    ],
    [
      'a part that is not on the shelf',
      () => ({ picks: [{ slot: 'temperature', partId: 'unobtainium', converterId: null, reason: '' }] }),
      'picks.0.partId',
      /The shelf has no sensor "unobtainium"/,
    ],
    [
      'a display in the place of the board',
      () => ({ picks: [{ slot: 'board', partId: 'character-20x4', converterId: null, reason: '' }] }),
      'picks.0.partId',
      /board/,
    ],
    [
      'a pick for something the brief does not ask',
      () => ({ picks: [{ slot: 'moon', partId: 'ntc-bead-10k', converterId: null, reason: '' }] }),
      'picks.0.slot',
      /moon/,
    ],
    [
      'alarms the wrong way round',
      () => ({ alarms: [{ ...HIGH, caution: 90 }] }),
      'alarms.0',
      /Hot: Caution \(90 °C\) must be reached before the limit \(80 °C\)/,
    ],
    [
      'an alarm in another quantity',
      () => ({ alarms: [{ ...HIGH, unit: 'V' }] }),
      'alarms.0',
      /Hot: Probe 1 is measured in degrees? Celsius, but the alarm is set in volts?. Use °C/,
    ],
    [
      'an alarm of a channel that is not there',
      () => ({ alarms: [{ ...HIGH, channelId: 'p9' }] }),
      'alarms.0',
      /no channel "p9"/,
    ],
  ])('refuses %s, naming the field and the rule', async (_what, body, field, detail) => {
    const gadget = await create();
    const answer = await patch(gadget, body(gadget));
    expect(answer.status).toBe(422);
    expect(answer.body.detail).toMatch(detail);
    if (field) expect(answer.body.field).toBe(field);
    expect(answer.body.wayOut.length).toBeGreaterThan(5);
    expect((await bench.call<Gadget>('GET', `/api/gadgets/${gadget.id}`)).body).toEqual(gadget);
  });

  it('writes down what changed', async () => {
    const gadget = await create();
    const channels = gadget.channels.map((c, i) =>
      i === 1
        ? {
            ...c,
            line: {
              ...c.line,
              stages: c.line.stages.map((s) =>
                s.id === 'divider' ? { ...s, params: { ...s.params, seriesOhm: 2700 } } : s,
              ),
            },
          }
        : c,
    );
    const picks = [{ slot: 'temperature', partId: 'ntc-bead-10k', converterId: null, reason: 'cheap' }];
    await patch(gadget, { channels, picks });
    const log = await bench.call<{ items: LogEntry[] }>('GET', `/api/gadgets/${gadget.id}/logbook`);
    expect(log.body.items.map((e) => e.text)).toEqual(
      expect.arrayContaining([
        'Probe 2: signal line changed (Voltage divider, series resistor: 3300 to 2700).',
        expect.stringContaining('Reason: cheap'),
      ]),
    );
  });
});

describe('true-up', () => {
  const capture = { mean: 500, sd: 0.6, n: 100, nEffective: 90, durationS: 10 };
  const keep = (id: string, mean: number, reference: object, role = 'fit') =>
    bench.call<CalibrationPoint>('POST', `/api/gadgets/${id}/points`, {
      channelId: 'p1',
      role,
      reference,
      capture: { ...capture, mean },
    });

  it('keeps with a version what its points differed by from below and from above', async () => {
    const { id } = await create();
    const at = (mean: number, reading: number, approach: 'from below' | 'from above') =>
      bench.call('POST', `/api/gadgets/${id}/points`, {
        channelId: 'p1',
        role: 'fit',
        reference: { kind: 'instrument', reading, uncertainty: 0.2 },
        capture: { ...capture, mean, approach },
      });
    const fitted = async () =>
      (
        await bench.call<Calibration>('POST', `/api/gadgets/${id}/calibrations`, {
          channelId: 'p1',
          fit: 'gain-offset',
          use: true,
          note: '',
        })
      ).body.result;
    await at(810, 20, 'from below');
    await at(500, 52, 'from below');
    expect(await fitted()).not.toHaveProperty('hysteresis');
    await at(520, 52, 'from above');
    const { hysteresis } = await fitted();
    expect(hysteresis).toMatchObject({ unit: 'degC' });
    // Twenty counts apart, at about ten counts a kelvin there.
    expect(hysteresis!.half).toBeGreaterThan(0.7);
    expect(hysteresis!.half).toBeLessThan(1.5);
  });

  it('works out references itself, fits, keeps versions and swaps them', async () => {
    const { id } = await create();
    const ice = await keep(id, 931, { kind: 'ice-slurry' });
    expect(ice.body.worth).toMatchObject({ value: 0, uncertainty: 0.1 });
    await keep(id, 810, { kind: 'instrument', reading: 20.2, uncertainty: 0.2 });
    await keep(id, 188, { kind: 'boiling-elevation', elevationM: 640 });
    const first = await bench.call<Calibration>('POST', `/api/gadgets/${id}/calibrations`, {
      channelId: 'p1',
      fit: 'series-resistor',
      use: true,
      note: '',
    });
    expect(first).toMatchObject({ status: 201, body: { number: 1, state: 'in use' } });
    await bench.call('POST', `/api/gadgets/${id}/calibrations`, {
      channelId: 'p1',
      fit: 'gain-offset',
      use: true,
      note: '',
    });
    const states = async () =>
      (await bench.call<{ items: Calibration[] }>('GET', `/api/gadgets/${id}/calibrations`)).body.items.map(
        (c) => c.state,
      );
    expect(await states()).toEqual(['replaced', 'in use']);
    await bench.call('POST', `/api/calibrations/${first.body.id}/use`);
    expect(await states()).toEqual(['in use', 'replaced']);
    const header = await bench.call<string>('GET', `/api/gadgets/${id}/channels/p1/header`);
    expect(header.body).toContain(`calibration 1, fit series resistor`);
    expect(header.body).toContain(String(first.body.result.parameters[0]!.value));
  });

  it('makes no version that is equal to the one in use', async () => {
    const { id } = await create();
    for (const [mean, reading] of [
      [931, 0.1],
      [600, 44],
      [188, 97.9],
    ] as const)
      await keep(id, mean, { kind: 'instrument', reading, uncertainty: 0.2 });
    const use = async () =>
      (
        await bench.call<Calibration>('POST', `/api/gadgets/${id}/calibrations`, {
          channelId: 'p1',
          fit: 'gain-offset',
          use: true,
          note: '',
        })
      ).body;
    const first = await use();
    expect(await use()).toEqual(first);
    await keep(id, 400, { kind: 'instrument', reading: 66, uncertainty: 0.2 });
    expect(await use()).toMatchObject({ number: 2, state: 'in use' });
  });

  it('corrects a wrongly typed reference, and keeps in the logbook what it was', async () => {
    const { id } = await create();
    const point = await keep(id, 500, { kind: 'instrument', reading: 520, uncertainty: 0.2 });
    const correct = (reference: object) =>
      bench.call<CalibrationPoint & Problem>('PATCH', `/api/points/${point.body.id}`, { reference });
    const put = await correct({ kind: 'instrument', reading: 52, uncertainty: 0.2 });
    expect(put.body.worth).toMatchObject({ value: 52, uncertainty: 0.2 });
    expect(put.body.capture).toEqual(point.body.capture);
    expect((await correct({ kind: 'instrument', reading: 52, uncertainty: 0 })).status).toBe(422);
    const log = await bench.call<{ items: LogEntry[] }>('GET', `/api/gadgets/${id}/logbook`);
    expect(log.body.items.map((e) => e.text).join('\n')).toMatch(
      /reference of the point at 500\S* counts corrected from 520\.\S* ±0\.2\S* .* to 52\./,
    );
  });

  it('keeps points of several channels and puts all in use, or keeps nothing', async () => {
    const { id, channels } = (
      await bench.call<Gadget>('POST', '/api/gadgets', { template: 'gas-watch', name: 'Cellar' })
    ).body;
    const point = (channelId: string, ppm: number) => ({
      channelId,
      role: 'fit',
      reference: { kind: 'clean-air', ppm, within: ppm / 5 },
      capture: { ...capture, mean: 620 },
    });
    const act = (points: object[]) =>
      bench.call<{ items: Calibration[] } & Problem>('POST', `/api/gadgets/${id}/point-calibrations`, {
        points,
        fit: 'clean-air-baseline',
        note: 'clean air',
      });
    const kept = async (what: string) =>
      (await bench.call<{ items: unknown[] }>('GET', `/api/gadgets/${id}/${what}`)).body.items.length;
    const [first, second] = channels.map((c) => c.id) as [string, string];
    const refused = await act([point(first, 8), point('p9', 2)]);
    expect(refused.status).toBe(404);
    // The second stands at the converter's end, where no baseline can be worked out.
    const dead = { ...point(second, 2), capture: { ...capture, mean: 4095 } };
    expect((await act([point(first, 8), dead])).status).toBe(422);
    expect([await kept('points'), await kept('calibrations')]).toEqual([0, 0]);
    const done = await act([point(first, 8), point(second, 2)]);
    expect(done.body.items.map((c) => [c.channelId, c.state])).toEqual([
      [first, 'in use'],
      [second, 'in use'],
    ]);
    expect([await kept('points'), await kept('calibrations')]).toEqual([2, 2]);
  });

  it('keeps check points and left-out points out of the fit', async () => {
    const { id } = await create();
    for (const [mean, reading] of [
      [931, 0.1],
      [600, 44],
      [188, 97.9],
    ] as const)
      await keep(id, mean, { kind: 'instrument', reading, uncertainty: 0.2 });
    await keep(id, 300, { kind: 'instrument', reading: 5, uncertainty: 0.2 }, 'check');
    const wild = await keep(id, 400, { kind: 'instrument', reading: 5, uncertainty: 0.2 });
    expect(
      (await bench.call('PATCH', `/api/points/${wild.body.id}`, { excluded: 'the lead came off' })).status,
    ).toBe(200);
    const fit = await bench.call<Calibration>('POST', `/api/gadgets/${id}/calibrations`, {
      channelId: 'p1',
      fit: 'gain-offset',
      use: false,
      note: '',
    });
    expect(fit.body.pointIds).toHaveLength(3);
    expect(fit.body.state).toBe('draft');
  });

  it('refuses a fit with too few points, an unknown fit, and a reference outside its physics', async () => {
    const { id } = await create();
    const fit = (name: string) =>
      bench.call<Problem>('POST', `/api/gadgets/${id}/calibrations`, {
        channelId: 'p1',
        fit: name,
        use: true,
        note: '',
      });
    expect(await fit('steinhart-hart')).toMatchObject({
      status: 422,
      body: { detail: 'Needs 3 different points; capture 3 more.' },
    });
    expect((await fit('tea-leaves')).body.detail).toMatch(/Unknown fit "tea-leaves"/);
    expect(
      (await keep(id, 500, { kind: 'boiling-pressure', pressureHpa: 2000, uncertaintyHpa: 1 })).status,
    ).toBe(422);
    expect(
      (
        await bench.call('POST', `/api/gadgets/${id}/points`, {
          channelId: 'p9',
          role: 'fit',
          reference: { kind: 'ice-slurry' },
          capture,
        })
      ).status,
    ).toBe(404);
  });
});

describe('the door', () => {
  /** fetch sets Host and Origin itself, so these go by hand. */
  const raw = (headers: Record<string, string>, method = 'GET') =>
    new Promise<number>((resolve, reject) => {
      const { hostname, port } = new URL(bench.server.url);
      const sent = request({ hostname, port, path: '/api/gadgets', method, headers }, (response) => {
        response.resume();
        resolve(response.statusCode!);
      });
      sent.on('error', reject);
      sent.end();
    });
  const port = () => new URL(bench.server.url).port;

  it('refuses a foreign host name and a foreign page, and lets its own in', async () => {
    expect(await raw({ Host: `rebound.example:${port()}` })).toBe(403);
    expect(await raw({ Host: `127.0.0.1:${port()}`, Origin: 'http://elsewhere.example' }, 'POST')).toBe(403);
    expect(
      await raw({ Host: `127.0.0.1:${port()}`, 'Sec-Fetch-Site': 'cross-site', 'Sec-Fetch-Mode': 'no-cors' }),
    ).toBe(403);
    expect(await raw({ Host: `localhost:${port()}`, Origin: `http://localhost:${port()}` })).toBe(200);
  });

  it('answers unknown routes, unreadable and oversized bodies with a problem', async () => {
    expect(await bench.call('GET', '/api/teapot')).toMatchObject({ status: 404, body: { code: 'no-route' } });
    expect(await bench.call('POST', '/api/gadgets', '{"name":')).toMatchObject({
      status: 400,
      body: { code: 'not-json' },
    });
    expect(
      await bench.call('POST', '/api/gadgets', { name: 'x'.repeat(1_200_000), template: 'empty' }),
    ).toMatchObject({ status: 413 });
    expect(
      await bench.call('POST', '/api/gadgets', { template: '../../etc/passwd', name: 'x' }),
    ).toMatchObject({ status: 422 });
    expect(await bench.call('GET', '/api/recordings/none/window')).toMatchObject({ status: 404 });
  });

  it('refuses bodies nested a hundred thousand deep by the field they stand in, and goes on', async () => {
    const deep = `${'{"a":'.repeat(100_000)}1${'}'.repeat(100_000)}`;
    expect(
      await bench.call('POST', '/api/gadgets', `${'['.repeat(400_000)}${']'.repeat(400_000)}`),
    ).toMatchObject({ status: 422, body: { code: 'invalid-body' } });
    expect(await bench.call('POST', '/api/gadgets', `{"template":${deep},"name":"x"}`)).toMatchObject({
      status: 422,
      body: { code: 'invalid-body', field: 'template' },
    });
    expect(await bench.call('GET', '/api/gadgets')).toMatchObject({ status: 200 });
  });

  it('sends a strict content policy and describes itself', async () => {
    const { headers, body } = await bench.call<{ paths: Record<string, object> }>('GET', '/api/openapi.json');
    expect(headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(headers.get('x-powered-by')).toBeNull();
    expect(Object.keys(body.paths)).toContain('/api/gadgets/{id}/recordings/import');
  });

  it('has a schema that compiles for whatever is sent and answered', async () => {
    type Content = { content?: Record<string, { schema?: TSchema }> };
    type Operation = { requestBody?: Content; responses: Record<string, Content> };
    const { body } = await bench.call<{ paths: Record<string, Record<string, Operation>> }>(
      'GET',
      '/api/openapi.json',
    );
    const schemas = Object.values(body.paths)
      .flatMap((methods) => Object.values(methods))
      .flatMap(({ requestBody, responses }) => [requestBody, ...Object.values(responses)])
      .map((part) => part?.content?.['application/json']?.schema)
      .filter((schema) => schema !== undefined);
    expect(schemas.length).toBeGreaterThan(50);
    for (const schema of schemas) {
      // Nothing is a symbol: a schema that can be compiled says so in words.
      expect(() => answerCheck(schema)(Symbol('no value'))).toThrow('does not match its schema');
    }
  });
});
