import { rmSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDatabase, type OpenDatabase } from '../src/db/open.ts';
import { ChunkWriter } from '../src/recordings/chunkWriter.ts';
import { askPool, readChunks } from '../src/recordings/sampleStore.ts';
import { sharedCommits, type RecorderCommit } from '../src/recordings/sharedCommits.ts';
import { freshFolder } from './bench.ts';

let folder: string;
let database: OpenDatabase;
beforeAll(async () => {
  folder = freshFolder();
  database = await openDatabase(folder);
  await database.knex.raw('PRAGMA foreign_keys = OFF');
});
afterAll(async () => {
  await database.close();
  rmSync(folder, { recursive: true, force: true });
});

async function addRecordings(ids: readonly string[]): Promise<void> {
  const columns = (await database.knex.raw('PRAGMA table_info(recordings)')) as {
    name: string;
    type: string;
    notnull: number;
    dflt_value: unknown;
  }[];
  const needed = columns.filter((c) => c.notnull === 1 && c.dflt_value === null && c.name !== 'id');
  for (const id of ids)
    await database.knex('recordings').insert({
      id,
      ...Object.fromEntries(needed.map((c) => [c.name, /int|float|real/i.test(c.type) ? 0 : ''])),
    });
}

/** A recorder's writer whose commits go with those of others. */
function writerOf(id: string, change: (commit: RecorderCommit) => RecorderCommit = (c) => c) {
  const write = sharedCommits(database.knex);
  return new ChunkWriter(database.knex, id, 1, (commit) =>
    write(
      change({
        chunks: () => commit.chunks(),
        standing: {
          id,
          total: commit.total,
          lastTimeS: commit.lastTimeS,
          lost: 3,
          issues: JSON.stringify([{ code: 'gap', row: 1, text: `${id}'s own; "quoted"` }]),
        },
      }),
    ),
  );
}

const standing = (id: string) =>
  database
    .knex('recordings')
    .where({ id })
    .first('sample_count', 'first_time_s', 'last_time_s', 'lost_readings', 'issues');

async function valuesOf(id: string): Promise<number[]> {
  const all: number[] = [];
  for await (const chunk of readChunks(askPool(database.knex), id, 1)) all.push(...chunk.columns[0]!);
  return all;
}

describe('what many recorders commit together', () => {
  it('lies on disk each by itself, with where each recording stands to the last bit', async () => {
    const ids = Array.from({ length: 450 }, (_, k) => `many ${k}`);
    await addRecordings(ids);
    const writers = ids.map((id) => writerOf(id));
    for (const part of [0, 1]) {
      writers.forEach((writer, k) => {
        for (let i = 0; i <= k % 7; i++)
          writer.append(1 / 3 + k + part * 100 + i / 10, [1000 * k + 10 * part + i]);
      });
      await Promise.all(writers.map((w) => w.commit()));
    }
    for (const [k, id] of ids.entries()) {
      const last = k % 7;
      expect(await standing(id)).toEqual({
        sample_count: 2 * (last + 1),
        first_time_s: 1 / 3 + k,
        last_time_s: 1 / 3 + k + 100 + last / 10,
        lost_readings: 3,
        issues: JSON.stringify([{ code: 'gap', row: 1, text: `${id}'s own; "quoted"` }]),
      });
      expect(await valuesOf(id)).toEqual(
        [0, 10].flatMap((part) => Array.from({ length: last + 1 }, (_, i) => 1000 * k + part + i)),
      );
    }
  });

  it('is kept of all others when one cannot be written, which keeps its own for the next', async () => {
    await addRecordings(['good', 'bad', 'also good']);
    let broken = true;
    const bad = writerOf('bad', (commit) => ({
      ...commit,
      chunks() {
        if (broken) throw new Error('no room for this one');
        return commit.chunks();
      },
    }));
    const others = [writerOf('good'), writerOf('also good')];
    for (const writer of [bad, ...others]) writer.append(1, [42]);
    const told = await Promise.allSettled([bad, ...others].map((w) => w.commit()));
    expect(told.map((t) => t.status)).toEqual(['rejected', 'fulfilled', 'fulfilled']);
    expect(await valuesOf('bad')).toEqual([]);
    expect(await valuesOf('also good')).toEqual([42]);
    expect((await standing('good')) as object).toMatchObject({ sample_count: 1 });
    broken = false;
    bad.append(2, [43]);
    await bad.commit();
    expect(await valuesOf('bad')).toEqual([42, 43]);
  });
});
