import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type {
  Gadget,
  JudgedStudy,
  Link,
  MadeLink,
  Problem,
  ProofAnswer,
  Recording,
  StudyBody,
  StudyPairs,
} from '@lucky-needle/core/model';
import { openBench, recordingOf, SIMULATED, until, type TestBench } from './bench.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await openBench();
});
afterAll(() => bench.close());

const made = async (template: string) =>
  (await bench.call<Gadget>('POST', '/api/gadgets', { template, name: template })).body;

const begin = (gadgetId: string, kind: string, channelId: string, figureId: string | null = null) =>
  bench.call<JudgedStudy>('POST', `/api/gadgets/${gadgetId}/studies`, { kind, channelId, figureId });

const bodyOf = ({ study }: JudgedStudy): StudyBody => ({
  title: study.title,
  by: study.by,
  place: study.place,
  settings: study.settings,
  rows: study.rows.map(({ id, values, from, excluded }) => ({ id, values, from, excluded })),
  stretches: study.stretches,
});

const keep = (judged: JudgedStudy, change: Partial<StudyBody>) =>
  bench.call<JudgedStudy>(
    'PUT',
    `/api/studies/${judged.study.id}`,
    { ...bodyOf(judged), ...change },
    { 'If-Match': `"${judged.study.version}"` },
  );

const typed = (rows: readonly Record<string, number | string>[]): StudyBody['rows'] =>
  rows.map((values, i) => ({ id: `r${i}`, values, from: { kind: 'typed' }, excluded: null }));

const pairs = (n: number, off = 0) =>
  typed(
    Array.from({ length: n }, (_, i) => ({
      reference: 20 + 5 * i,
      shown: 20 + 5 * i + off + 0.02 * (i % 3),
    })),
  );

/** A simulated gadget's run of so many seconds on its own clock. */
async function recorded(gadget: Gadget, seconds: number): Promise<Recording> {
  await bench.call<MadeLink>('POST', `/api/gadgets/${gadget.id}/link`, SIMULATED);
  await bench.call<Link>('PATCH', `/api/gadgets/${gadget.id}/link`, { speed: 50 });
  const started = await bench.call<Recording>('POST', `/api/gadgets/${gadget.id}/recordings`, {
    name: 'Rest',
  });
  await until(
    () => recordingOf(bench, started.body.id),
    (r) => (r.lastTimeS ?? 0) - (r.firstTimeS ?? 0) > seconds,
  );
  await bench.call('POST', `/api/recordings/${started.body.id}/stop`);
  await bench.call('DELETE', `/api/gadgets/${gadget.id}/link`);
  return recordingOf(bench, started.body.id);
}

describe('a study of typed pairs', () => {
  it('is begun, kept, judged, deleted and put back, and stands among the claims', async () => {
    const gadget = await made('several-temperatures');
    const channelId = gadget.channels[0]!.id;
    const begun = await begin(gadget.id, 'agreement', channelId);
    expect([begun.status, begun.body.card.state, begun.body.study.version]).toEqual([201, 'not shown', 1]);
    const kept = await keep(begun.body, {
      settings: { otherU: 0.1 },
      rows: pairs(12),
      by: 'M. Thorne',
      place: 'Mill',
    });
    expect(kept.body.card).toMatchObject({ state: 'pass', unit: 'degC', stale: [] });
    expect(kept.body.study.rows[0]!.readBy).toMatch(/^[0-9a-f]{64}$/);
    expect(kept.body.card.plots[0]!.series[0]!.x).toHaveLength(12);
    const proof = (await bench.call<ProofAnswer>('GET', `/api/gadgets/${gadget.id}/proof`)).body;
    expect(proof).toMatchObject({ shown: 1, of: 24 });
    expect(proof.channels[0]!.claims.find((c) => c.id === `study-${kept.body.study.id}`)!.state).toBe('pass');
    expect((await bench.call('DELETE', `/api/studies/${kept.body.study.id}`)).status).toBe(204);
    expect((await bench.call<ProofAnswer>('GET', `/api/gadgets/${gadget.id}/proof`)).body.of).toBe(23);
    await bench.call('POST', `/api/studies/${kept.body.study.id}/restore`);
    const list = await bench.call<{ items: JudgedStudy[] }>('GET', `/api/gadgets/${gadget.id}/studies`);
    expect(list.body.items.map((s) => s.card.state)).toEqual(['pass']);
    const log = await bench.call<{ items: { text: string }[] }>('GET', `/api/gadgets/${gadget.id}/logbook`);
    expect(log.body.items.map((e) => e.text).join('\n')).toMatch(/Agreement with another instrument: pass/);
  });

  it('goes stale when the line changes, says so, and is shown again once its rows are taken again', async () => {
    const gadget = await made('several-temperatures');
    const channelId = gadget.channels[0]!.id;
    const { body: begun } = await begin(gadget.id, 'agreement', channelId);
    const { body: kept } = await keep(begun, { settings: { otherU: 0.1 }, rows: pairs(12) });
    const changed = await bench.call<Gadget>(
      'PATCH',
      `/api/gadgets/${gadget.id}`,
      {
        channels: gadget.channels.map((c) =>
          c.id === channelId
            ? {
                ...c,
                line: {
                  ...c.line,
                  stages: c.line.stages.map((s) =>
                    s.kind === 'divider' ? { ...s, params: { ...s.params, seriesOhm: 9000 } } : s,
                  ),
                },
              }
            : c,
        ),
      },
      { 'If-Match': `"${gadget.version}"` },
    );
    expect(changed.status).toBe(200);
    const stale = (await bench.call<JudgedStudy>('GET', `/api/studies/${kept.study.id}`)).body;
    expect(stale.card.state).toBe('not shown');
    expect(stale.card.sentence).toContain('has changed since 12 of 12 rows were saved');
    expect(stale.card.stale).toHaveLength(12);
    const again = await keep(stale, { rows: pairs(12).map((r) => ({ ...r, id: `again-${r.id}` })) });
    expect(again.body.card.state).toBe('pass');
  });

  it('refuses in words what cannot be, and loses nothing to a second writer', async () => {
    const gadget = await made('several-temperatures');
    const channelId = gadget.channels[0]!.id;
    expect((await begin(gadget.id, 'astrology', channelId)).status).toBe(422);
    expect((await begin(gadget.id, 'agreement', 'nobody')).status).toBe(422);
    const { body: begun } = await begin(gadget.id, 'accuracy', channelId);
    const refused = async (change: Partial<StudyBody>) => {
      const answer = await keep(begun, change);
      return [answer.status, (answer.body as unknown as Problem).detail];
    };
    expect(await refused({ rows: typed([{ reference: 1, shown: 'warm', approach: 'up' }]) })).toEqual([
      422,
      'Row 1, Reading: must be a number; received "warm".',
    ]);
    expect(await refused({ rows: typed([{ reference: 1, shown: 1, approach: 'sideways' }]) })).toEqual([
      422,
      'Row 1, Approach: must be either direction or going up or going down; received "sideways".',
    ]);
    expect((await refused({ settings: { referenceU: -1 } }))[0]).toBe(422);
    expect(
      (await refused({ rows: typed([{ reference: 1, shown: 1, approach: 'up', colour: 3 }]) }))[1],
    ).toContain('"colour"');
    const first = await keep(begun, { by: 'first' });
    const second = await keep(begun, { by: 'second' });
    expect([first.status, second.status]).toEqual([200, 412]);
    expect((await bench.call<JudgedStudy>('GET', `/api/studies/${begun.study.id}`)).body.study.by).toBe(
      'first',
    );
  });

  it('leaves a row out with its reason', async () => {
    const gadget = await made('several-temperatures');
    const { body: begun } = await begin(gadget.id, 'agreement', gadget.channels[0]!.id);
    const wild = typed([{ reference: 20, shown: 90 }]).map((r) => ({ ...r, id: 'wild' }));
    const { body: failed } = await keep(begun, { settings: { otherU: 0.1 }, rows: [...pairs(12), ...wild] });
    expect(failed.card.state).not.toBe('pass');
    const { body: without } = await keep(failed, {
      rows: [...pairs(12), { ...wild[0]!, excluded: 'read the wrong line' }],
    });
    expect(without.card.state).toBe('pass');
  });
});

describe('a study of a run', () => {
  it('judges noise, rest and sampling by the line as it is, and a column held still', async () => {
    const gadget = await made('several-temperatures');
    const run = await recorded(gadget, 60);
    const stretches = [{ recordingId: run.id, fromS: null, toS: null }];
    const channelId = gadget.channels[0]!.id;
    const card = async (kind: string, settings: StudyBody['settings'] | null = null) => {
      const { body: begun } = await begin(gadget.id, kind, channelId);
      return (await keep(begun, { stretches, ...(settings ? { settings } : {}) })).body.card;
    };
    const noise = await card('noise');
    expect(noise.plots).toHaveLength(3);
    expect(noise.facts.find((f) => f.title === 'Based on')!.text).toContain('Rest');
    expect((await card('sampling')).sentence).toMatch(/per second, 0 gaps/);
    const held = await card('constant-assumed', { column: gadget.channels[0]!.line.sources[0]!.column });
    // With its only column held still it reads one number: all that it moved by is lost.
    expect(held.sentence).toMatch(/held constant, 95 % of errors are within ±\d/);
    const missing = await card('constant-assumed', { column: 'moonlight' });
    expect(missing).toMatchObject({ state: 'not shown' });
    expect(missing.sentence).toContain('has no column "moonlight"');
    // A run that has gone shows nothing more.
    const { body: begun } = await begin(gadget.id, 'noise', channelId);
    const { body: kept } = await keep(begun, { stretches });
    await bench.call('DELETE', `/api/recordings/${run.id}`);
    const after = (await bench.call<JudgedStudy>('GET', `/api/studies/${kept.study.id}`)).body;
    expect(after.card).toMatchObject({ state: 'not shown' });
    expect(after.card.sentence).toContain('deleted');
  });

  it('is worked out beside a page that looks at the same run for the first time', async () => {
    const gadget = await made('several-temperatures');
    const run = await recorded(gadget, 60);
    const channelId = gadget.channels[0]!.id;
    const { body: begun } = await begin(gadget.id, 'noise', channelId);
    const [kept, looked, again] = await Promise.all([
      keep(begun, { stretches: [{ recordingId: run.id, fromS: null, toS: null }] }),
      bench.call('GET', `/api/recordings/${run.id}/readings?channel=${channelId}`),
      bench.call('GET', `/api/gadgets/${gadget.id}/studies`),
    ]);
    expect([kept.status, looked.status, again.status]).toEqual([200, 200, 200]);
  });

  it('reads two channels side by side at the same moments', async () => {
    const gadget = await made('several-temperatures');
    const run = await recorded(gadget, 40);
    const [a, b] = gadget.channels;
    const { body: begun } = await begin(gadget.id, 'agreement', a!.id);
    const ask = (change: object) =>
      bench.call<StudyPairs>('POST', `/api/studies/${begun.study.id}/pairs`, {
        recordingId: run.id,
        other: { recordingId: run.id, channelId: b!.id },
        everyS: 4,
        ...change,
      });
    const found = await ask({});
    expect(found.body.pairs.length).toBeGreaterThan(5);
    const [, second] = found.body.pairs;
    expect(second!.timeS - found.body.pairs[0]!.timeS).toBeCloseTo(4, 9);
    // The same channel agrees with itself to the last digit.
    const itself = await ask({ other: { recordingId: run.id, channelId: a!.id } });
    expect(itself.body.pairs.every((p) => p.reference === p.shown)).toBe(true);
    const refused = await ask({ everyS: 0.01 });
    expect([refused.status, (refused.body as unknown as Problem).wayOut]).toEqual([
      422,
      expect.stringMatching(/^Use one pair every \d+ s\.$/),
    ]);
  });
});
