import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Gadget, Recording, TrialRule, TrialsAnswer } from '@lucky-needle/core/model';
import { readoutSpec, TEMPLATES } from '@lucky-needle/core/plan';
import { firstRule } from '@lucky-needle/core/trial';
import { trialsOfRecording } from '../src/readings/recordingTrials.ts';
import { openBench, SIMULATED, until, type TestBench } from './bench.ts';
import { storedRun } from './storedRun.ts';

const RATE = 1000;
const template = TEMPLATES.find((t) => t.id === 'impact-peak')!.make();
/** A blow meter whose line is its raw column, in newton. */
const gadget = {
  ...template,
  sampleRateHz: RATE,
  channels: template.channels.map((c) => ({
    ...c,
    line: { sources: [{ column: 'load', unit: 'N' }], stages: [] },
  })),
} as unknown as Gadget;
const rule = firstRule(gadget)!;

/** One blow a second, each 100 N above the one before. */
function blows(seconds: number) {
  const times = Float64Array.from({ length: seconds * RATE }, (_, i) => (i + 1) / RATE);
  const load = times.map((t) => {
    const at = (t % 1) - 0.5;
    return at > 0 && at < 0.012 ? (300 + 100 * Math.floor(t)) * Math.sin((Math.PI * at) / 0.012) : 0;
  });
  return { times, load };
}

describe('trials of a recording', () => {
  it('are each blow by itself, worked out anew from one to the next', async () => {
    const { times, load } = blows(6);
    const { database, knex, recording } = await storedRun({ load }, times, RATE);
    try {
      const { channels } = readoutSpec(gadget, [], [], RATE);
      const walk = await trialsOfRecording(knex, recording, channels, rule);
      const { problem, trials } = await walk.upTo(recording, () => undefined);
      expect(problem).toBeNull();
      expect(trials).toHaveLength(6);
      const peak = trials.map((t) => t.figures.find((f) => f.id === rule.figureId)!.value);
      peak.forEach((v, k) => expect(Math.abs(v / (300 + 100 * k) - 1)).toBeLessThan(0.02));
      // What counts since the reset counts the trial alone.
      expect(trials.map((t) => t.figures.find((f) => f.id === 'count')!.value)).toEqual([1, 1, 1, 1, 1, 1]);
      trials.forEach((t, k) => {
        expect(t.fromS).toBeCloseTo(k + 0.5, 1);
        expect(t.isOpen).toBe(false);
      });
    } finally {
      await database.close();
    }
  });

  it('are the same cut while it grows, at any moments, as cut at once', async () => {
    const { times, load } = blows(40);
    const { database, knex, recording, writer } = await storedRun(
      { load: load.subarray(0, 30_011) },
      times.subarray(0, 30_011),
      RATE,
      {
        state: 'recording',
      },
    );
    try {
      const { channels } = readoutSpec(gadget, [], [], RATE);
      const walk = await trialsOfRecording(knex, recording, channels, rule);
      const soon = await walk.upTo(recording, () => undefined);
      expect(soon.trials).toHaveLength(30);
      for (const to of [33_500, 33_507, 40_000]) {
        const from = recording.sampleCount;
        writer.appendAll({ times: times.subarray(from, to), columns: [load.subarray(from, to)] }, to - from);
        await writer.commit();
        Object.assign(recording, { sampleCount: to, lastTimeS: times[to - 1] });
        // Two looks at once feed no row twice.
        await Promise.all([walk.upTo(recording, () => undefined), walk.upTo(recording, () => undefined)]);
      }
      const closed: Recording = { ...recording, state: 'closed' };
      const grown = await walk.upTo(closed, () => undefined);
      const whole = await (
        await trialsOfRecording(knex, closed, channels, rule)
      ).upTo(closed, () => undefined);
      expect(grown).toEqual(whole);
      expect(grown.trials).toHaveLength(40);
    } finally {
      await database.close();
    }
  });

  it('are cut by marks, the last to the end', async () => {
    const { times, load } = blows(5);
    const markers = [1.8, 3.2].map((timeS, k) => ({ id: `m${k}`, timeS, text: 'next' }));
    const { database, knex, recording } = await storedRun({ load }, times, RATE, { markers });
    try {
      const { channels } = readoutSpec(gadget, [], [], RATE);
      const walk = await trialsOfRecording(knex, recording, channels, {
        ...rule,
        how: 'marks',
        watchId: null,
      });
      const { trials } = await walk.upTo(recording, () => undefined);
      expect(trials.map((t) => [t.fromS, t.toS])).toEqual([
        [0.001, 1.8],
        [1.8, 3.2],
        [3.2, 5],
      ]);
    } finally {
      await database.close();
    }
  });
});

describe('trials of a gadget', () => {
  let bench: TestBench;
  beforeAll(async () => {
    bench = await openBench();
  });
  afterAll(() => bench.close());
  type Whole = Exclude<TrialsAnswer, { share: number }>;
  const trialsOf = async (id: string, tried: TrialRule | null = null) =>
    (
      await until(
        () => bench.call<TrialsAnswer>('POST', `/api/gadgets/${id}/trials`, { rule: tried }),
        ({ body }) => 'trials' in body,
      )
    ).body as Whole;

  it('grow while it records with no page open, are labelled and left out with a reason, and stay so by another rule', async () => {
    const { body } = await bench.call<Gadget>('POST', '/api/gadgets', {
      template: 'impact-peak',
      name: 'Blows',
    });
    await bench.call('POST', `/api/gadgets/${body.id}/link`, SIMULATED);
    await bench.call('PATCH', `/api/gadgets/${body.id}/link`, { condition: 'blows' });
    const run = await bench.call<Recording>('POST', `/api/gadgets/${body.id}/recordings`, {
      name: 'Ten impacts',
    });
    expect(run.status).toBe(201);
    const growing = await until(
      () => trialsOf(body.id),
      ({ trials }) => trials.length >= 3,
    );
    expect(growing.problem).toBeNull();
    await bench.call('POST', `/api/recordings/${run.body.id}/stop`);
    const { trials } = await trialsOf(body.id);
    expect(trials.length).toBeGreaterThanOrEqual(growing.trials.length);
    const [first, second] = trials;
    const note = (trial: typeof first, said: object) =>
      bench.call('PUT', `/api/recordings/${run.body.id}/trial-note`, {
        fromS: trial!.fromS,
        toS: trial!.toS,
        replacesS: trial!.saidAtS,
        label: '',
        note: '',
        excluded: null,
        ...said,
      });
    expect((await note(first, { label: 'A' })).status).toBe(200);
    expect((await note(second, { label: 'B', excluded: 'glanced off' })).status).toBe(200);
    const said = await trialsOf(body.id);
    expect(said.trials.slice(0, 2).map((t) => [t.label, t.excluded])).toEqual([
      ['A', null],
      ['B', 'glanced off'],
    ]);
    // Said otherwise, it takes the place of what was said; said nothing, it is gone.
    await note(first, { label: 'C' });
    await note(second, {});
    expect((await trialsOf(body.id)).trials.slice(0, 2).map((t) => [t.label, t.excluded])).toEqual([
      ['C', null],
      ['', null],
    ]);
    // Found beside its trial by a rule that cuts a little later, it is taken away all the same.
    const [again] = (await trialsOf(body.id)).trials;
    const later = again!.fromS + (again!.toS - again!.fromS) / 10;
    expect((await note({ ...again!, fromS: later }, { label: '' })).status).toBe(200);
    expect((await trialsOf(body.id)).trials[0]).toMatchObject({ label: '', saidAtS: null });
    await note(first, { label: 'C' });
    await note(second, { label: 'D' });
    // Tried with another level nothing is kept either: no blow is as hard as that.
    const { watches } = (await bench.call<Gadget>('GET', `/api/gadgets/${body.id}`)).body.channels[0]!;
    const harder = watches!.map((w) => ({ ...w, params: { ...w.params, level: 1e6 } }));
    const none = await until(
      () =>
        bench.call<TrialsAnswer>('POST', `/api/gadgets/${body.id}/trials`, { rule: null, watches: harder }),
      ({ body: b }) => 'trials' in b,
    );
    expect(none.body).toMatchObject({ trials: [], problem: null });
    expect((none.body as Whole).lost.length).toBeGreaterThan(0);
    expect((await trialsOf(body.id)).trials.length).toBe(trials.length);
    // Tried by another rule nothing is kept, and what was said is found in the larger trial.
    const whole = await trialsOf(body.id, { ...said.rule!, how: 'run', watchId: null });
    expect(whole.trials).toHaveLength(1);
    expect(whole.trials[0]!.label).toBe('C');
    expect((await trialsOf(body.id)).rule).toEqual(said.rule);
    const kept = await bench.call<TrialRule>('PUT', `/api/gadgets/${body.id}/trial-rule`, whole.rule);
    expect(kept.status).toBe(200);
    const [one] = (await trialsOf(body.id)).trials;
    // Said of the whole, it takes away nothing that was said of its parts.
    await note(one, { label: 'all', replacesS: null });
    expect((await trialsOf(body.id)).trials.map((t) => t.label)).toEqual(['all']);
    const parts = await trialsOf(body.id, said.rule);
    expect(parts.trials[1]!.label).toBe('D');
  });

  it('refuse a moment outside the run and a rule that cannot cut, with the way out', async () => {
    const { body } = await bench.call<Gadget>('POST', '/api/gadgets', { template: 'rotation', name: 'Spin' });
    const empty = await trialsOf(body.id);
    expect(empty).toMatchObject({ trials: [], lost: [], rule: { how: 'run' } });
    const bad = await bench.call<{ detail: string }>('PUT', `/api/gadgets/${body.id}/trial-rule`, {
      ...empty.rule,
      how: 'event',
      watchId: 'gone',
    });
    expect(bad.status).toBe(422);
    expect(bad.body.detail).toMatch(/was removed/);
    const missing = await bench.call('PUT', '/api/recordings/none/trial-note', {
      fromS: 0,
      toS: 1,
      replacesS: null,
      label: '',
      note: '',
      excluded: null,
    });
    expect(missing.status).toBe(404);
  });
});
