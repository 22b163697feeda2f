import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import knexFactory from 'knex';
import { afterEach, expect, it } from 'vitest';
import type { Gadget, NowReading, Recording } from '@lucky-needle/core/model';
import { planOf, SHELF, thermistorLine } from '@lucky-needle/core/plan';
import { MIGRATIONS } from '../src/db/migrations.ts';
import { unpackOverview } from '../src/db/overview.ts';
import { alarmRule } from './alarmRule.ts';
import { freshFolder, openBench } from './bench.ts';

let folder = '';
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** A workspace as the version of so many migrations left it. */
async function oldWorkspace(migrations: number, rows: readonly (readonly [string, object])[]): Promise<void> {
  folder = freshFolder();
  const knex = knexFactory({
    client: 'better-sqlite3',
    connection: { filename: join(folder, 'lucky-needle.sqlite') },
    useNullAsDefault: true,
  });
  await knex.transaction(async (trx) => {
    for (const migration of MIGRATIONS.slice(0, migrations)) await migration.up(trx);
    await trx.raw(`PRAGMA user_version = ${migrations}`);
  });
  for (const [table, row] of rows) await knex(table).insert(row);
  await knex.destroy();
}

const base = {
  template: 'several-temperatures',
  version: 7,
  created_at: '2026-10-01T09:00:00.000Z',
  updated_at: '2026-10-02T09:00:00.000Z',
  deleted_at: null,
  place: JSON.stringify({ name: 'Loft', elevationM: 640, pressureHpa: null }),
  face: null,
  sample_rate_hz: 10,
};

it('an old workspace opens with its briefs, picks and pins in their new places, and a copy is kept', async () => {
  const channels = [1, 2].map((i) => ({ id: `p${i}`, name: `Probe ${i}`, line: thermistorLine(`p${i}`) }));
  const gadgets = [
    {
      ...base,
      id: 'full',
      name: 'Kiln',
      brief: JSON.stringify({
        quantity: 'Temperature',
        unit: 'degC',
        low: 0,
        high: 110,
        tolerance: 1,
        fastest: { kind: 'ramp', ratePerS: 0.3 },
        power: 'wall',
        surroundings: ['heat'],
        budget: 75,
        note: 'dry',
      }),
      pick: JSON.stringify({ partId: 'ntc-bead-10k', reason: 'cheap' }),
      hookup: JSON.stringify({
        boardId: 'small-8-bit',
        displayId: 'character-20x4',
        pins: [{ channelId: 'p2', pin: 'A3' }],
      }),
      channels: JSON.stringify(channels),
    },
    {
      ...base,
      id: 'bare',
      template: 'empty',
      name: 'Bare',
      brief: null,
      pick: null,
      hookup: null,
      channels: JSON.stringify([
        { id: 'c1', name: 'One', line: { sources: [{ column: 'c1', unit: 'count' }], stages: [] } },
      ]),
    },
  ];
  await oldWorkspace(
    1,
    gadgets.map((row) => ['gadgets', row]),
  );
  const bench = await openBench({}, { dataDir: folder });
  try {
    const full = (await bench.call<Gadget>('GET', '/api/gadgets/full')).body;
    expect(full).toMatchObject({
      version: 7,
      brief: {
        asks: [{ quantity: 'Temperature', high: 110, measurand: 'temperature', sensed: null }],
        budget: 75,
        note: 'dry',
      },
      cautionsRead: [],
    });
    expect(full.picks.map((k) => [k.slot, k.partId, k.reason])).toEqual([
      [full.brief!.asks[0]!.id, 'ntc-bead-10k', 'cheap'],
      ['board', 'small-8-bit', ''],
      ['display', 'character-20x4', ''],
    ]);
    const plan = planOf(full, SHELF)!;
    expect(plan.sensing[0]!.channels).toHaveLength(2);
    expect(plan.hookup.pins).toEqual([{ needId: 'a1.2.a1', pin: 'A3' }]);
    expect((await bench.call<Gadget>('GET', '/api/gadgets/bare')).body).toMatchObject({
      brief: null,
      picks: [],
      hookup: null,
    });
    // And it can be worked on as any other.
    const changed = await bench.call(
      'PATCH',
      '/api/gadgets/full',
      { name: 'Kiln loft' },
      { 'If-Match': '"7"' },
    );
    expect(changed.status).toBe(200);
    expect(existsSync(join(folder, 'lucky-needle.sqlite.before-2'))).toBe(true);
  } finally {
    await bench.close();
  }
});

it('runs recorded before versions were written down open as they are, with none named', async () => {
  const gadget = { ...base, id: 'g', name: 'Kiln', brief: null, hookup: null, channels: '[]', picks: '[]' };
  await oldWorkspace(2, [
    ['gadgets', gadget],
    [
      'recordings',
      {
        id: 'r',
        gadget_id: 'g',
        name: 'Firing',
        state: 'closed',
        started_at: '2026-10-02T09:00:00.000Z',
        ended_at: '2026-10-02T10:00:00.000Z',
        columns: JSON.stringify([{ name: 'p1', unit: 'count' }]),
        sample_rate_hz: 10,
        sample_count: 0,
        first_time_s: null,
        last_time_s: null,
        lost_readings: 0,
        issues: '[]',
        note: '',
        excluded: null,
      },
    ],
    [
      'chunks',
      {
        recording_id: 'r',
        seq: 0,
        first_time_s: 0,
        last_time_s: 99,
        count: 100,
        ranges: Buffer.alloc(16),
        samples: Buffer.from(
          Float64Array.from([...Array(100).keys(), ...Array(100).keys()].map((v, i) => (i === 190 ? -99 : v)))
            .buffer,
        ),
        checksum: 0,
      },
    ],
  ]);
  const bench = await openBench({}, { dataDir: folder });
  try {
    const runs = await bench.call<{ items: Recording[] }>('GET', '/api/gadgets/g/recordings');
    expect(runs.body.items).toMatchObject([{ name: 'Firing', versions: {}, pieces: null, markers: [] }]);
    // What every 64 samples came to is worked out for what was stored before that was kept.
    const [overview] = await bench.server.knex('overviews').where({ recording_id: 'r' });
    const { firstS, low, high } = unpackOverview(overview.data, 1);
    expect([[...firstS], [...low[0]!], [...high[0]!]]).toEqual([
      [0, 64],
      [0, -99],
      [63, 99],
    ]);
    const kept = await bench.call<{ items: [] }>('GET', '/api/gadgets/g/evidence');
    expect([kept.status, kept.body.items]).toEqual([200, []]);
    expect(existsSync(join(folder, 'lucky-needle.sqlite.before-3'))).toBe(true);
  } finally {
    await bench.close();
  }
});

it('figures that put readings right by other channels become stages, and alarms go by the readings', async () => {
  const linear = (id: string) => ({
    id,
    askId: 'a',
    name: id,
    line: { sources: [{ column: id, unit: 'ppm' }], stages: [] },
  });
  const figure = (id: string, kind: string, others: string[], params: object) => ({
    id,
    kind,
    name: id,
    watches: {},
    others,
    params,
    askId: null,
  });
  const less = figure('alone', 'less-others', ['b', 'c'], {
    own: 1.1,
    weights: [-0.2, -0.1],
    doubts: [0.01, 0.02, 0.03],
  });
  const warm = figure('warm', 'by-surroundings', ['c'], { shares: [0.02], at: [20], doubts: [0.002] });
  const mean = figure('mean', 'mean', [], { windowS: 60 });
  const rule = (id: string, channelId: string, figureId: string | null) =>
    alarmRule({ id, name: id, channelId, figureId, unit: 'ppm', limit: 20 });
  const gadget = {
    ...base,
    id: 'g',
    name: 'Cellar',
    brief: null,
    hookup: null,
    picks: '[]',
    channels: JSON.stringify([
      { ...linear('a'), figures: [mean, less, warm], shows: 'alone' },
      { ...linear('b'), figures: [mean], shows: 'mean' },
      linear('c'),
    ]),
    alarms: JSON.stringify([rule('x', 'a', 'alone'), rule('y', 'b', 'mean'), rule('z', 'a', 'mean')]),
  };
  await oldWorkspace(11, [['gadgets', gadget]]);
  const bench = await openBench({}, { dataDir: folder });
  try {
    const { body } = await bench.call<Gadget>('GET', '/api/gadgets/g');
    const [a, b] = body.channels;
    expect(a!.line.stages).toEqual([
      {
        id: 'less-others',
        kind: 'less-others',
        params: { channels: 'b c', own: 1.1, weights: [-0.2, -0.1] },
        uncertainty: { own: 0.01, 'weights.0': 0.02, 'weights.1': 0.03 },
        off: false,
      },
      {
        id: 'by-surroundings',
        kind: 'by-surroundings',
        params: { channels: 'c', share: 0.02, at: 20 },
        uncertainty: { share: 0.002 },
        off: false,
      },
    ]);
    expect([a!.figures!.map((f) => f.id), a!.shows, b!.shows]).toEqual([['mean'], null, 'mean']);
    expect(body.alarms!.map((r) => r.figureId)).toEqual([null, 'mean', 'mean']);
    // And it runs.
    const { body: now } = await bench.call<{ channels: NowReading[] }>('GET', '/api/gadgets/g/now');
    expect(now.channels[0]).toMatchObject({ unit: 'ppm', reason: 'no link', shows: null });
  } finally {
    await bench.close();
  }
});
