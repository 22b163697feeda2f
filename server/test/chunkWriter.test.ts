import { rmSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openDatabase, type OpenDatabase } from '../src/db/open.ts';
import { ChunkWriter } from '../src/recordings/chunkWriter.ts';
import {
  CHUNK_SAMPLES,
  askPool,
  readChunkRanges,
  readChunks,
  writeChunks,
} from '../src/recordings/sampleStore.ts';
import { freshFolder } from './bench.ts';

let folder: string;
let database: OpenDatabase;
beforeAll(async () => {
  folder = freshFolder();
  database = await openDatabase(folder);
  // Chunks belong to a recording; the rest of it does not matter here.
  await database.knex.raw('PRAGMA foreign_keys = OFF');
});
afterAll(async () => {
  await database.close();
  rmSync(folder, { recursive: true, force: true });
});

const N = 30 * CHUNK_SAMPLES + 777;
const times = Float64Array.from({ length: N }, (_, i) => i / 10);
const columns = [
  Float64Array.from(times, (_, i) => (i % 997 === 3 ? Number.NaN : Math.sin(i / 40) * 100)),
  Float64Array.from(times, (_, i) => (i < 2 * CHUNK_SAMPLES ? Number.NaN : -i)),
];

/** How many samples each chunk of a run has, after a look at every sample of it. */
async function countsOf(id: string): Promise<number[]> {
  const counts: number[] = [];
  let from = 0;
  for await (const chunk of readChunks(askPool(database.knex), id, columns.length)) {
    const to = from + chunk.times.length;
    expect(bytesOf(chunk.times).equals(bytesOf(times.subarray(from, to)))).toBe(true);
    chunk.columns.forEach((column, k) =>
      expect(bytesOf(column).equals(bytesOf(columns[k]!.subarray(from, to)))).toBe(true),
    );
    counts.push(chunk.times.length);
    from = to;
  }
  return counts;
}
const bytesOf = (a: Float64Array) => Buffer.from(a.buffer, a.byteOffset, a.byteLength);
const ALL = [...Array.from({ length: 30 }, () => CHUNK_SAMPLES), 777];

describe('chunks of a run', () => {
  it.each([1000, CHUNK_SAMPLES, 3 * CHUNK_SAMPLES + 1, N])(
    'hold the same samples, brought %i at a time and committed now and then',
    async (piece) => {
      const id = `by ${piece}`;
      const writer = new ChunkWriter(database.knex, id, columns.length);
      for (let from = 0, k = 0; from < N; from += piece, k++) {
        const part = (a: Float64Array) => a.subarray(from, from + piece);
        // With more in the buffers than counts.
        const more = (a: Float64Array) => Float64Array.from([...part(a), 1e9, 1e9]);
        writer.appendAll({ times: more(times), columns: columns.map(more) }, Math.min(piece, N - from));
        if (k % 3 === 1) await writer.commit();
      }
      await writer.commit();
      expect([writer.waiting, writer.committed]).toEqual([0, N]);
      expect(await countsOf(id)).toEqual(ALL);
    },
  );

  it('take in more while they are being committed', async () => {
    let told = 0;
    let meanwhile = () => undefined as void;
    const writer = new ChunkWriter(database.knex, 'meanwhile', columns.length, (commit) =>
      database.knex.transaction(async (trx) => {
        told = commit.total;
        expect(commit.lastTimeS).toBe(times[commit.total - 1]);
        meanwhile();
        await writeChunks(trx, commit.chunks());
      }),
    );
    let at = 0;
    const bring = (count: number) => {
      for (const end = Math.min(N, at + count); at < end; at++)
        writer.append(
          times[at]!,
          columns.map((c) => c[at]!),
        );
    };
    bring(5000);
    while (at < N) {
      const before = at;
      meanwhile = () => bring(9001);
      const committing = writer.commit();
      bring(501);
      await committing;
      expect(told).toBe(before);
      expect(writer.committed + writer.waiting).toBe(at);
    }
    meanwhile = () => undefined;
    await writer.commit();
    expect(await countsOf('meanwhile')).toEqual(ALL);
  });

  it('stay in memory when they cannot be written, and go out with the next', async () => {
    let refused = true;
    const writer = new ChunkWriter(database.knex, 'late', columns.length, (commit) =>
      database.knex.transaction(async (trx) => {
        await writeChunks(trx, commit.chunks());
        if (refused) throw new Error('no room');
      }),
    );
    writer.appendAll({ times, columns }, 10_000);
    await expect(writer.commit()).rejects.toThrow('no room');
    expect([writer.waiting, writer.committed]).toEqual([10_000, 0]);
    expect(await countsOf('late')).toEqual([]);
    refused = false;
    writer.append(times[10_000]!, [columns[0]![10_000]!, columns[1]![10_000]!]);
    await writer.commit();
    expect(await countsOf('late')).toEqual([CHUNK_SAMPLES, CHUNK_SAMPLES, 10_001 - 2 * CHUNK_SAMPLES]);
  });

  it('have lowest and highest beside them, and say where a column has no number', async () => {
    const { low, high, firstS } = await readChunkRanges(database.knex, `by ${N}`, 2, -Infinity, Infinity);
    expect(firstS[2]).toBe(times[2 * CHUNK_SAMPLES]);
    const third = columns.map((c) =>
      [...c.subarray(2 * CHUNK_SAMPLES, 3 * CHUNK_SAMPLES)].filter((v) => !Number.isNaN(v)),
    );
    third.forEach((values, k) => {
      expect([low[k]![2], high[k]![2]]).toEqual([Math.min(...values), Math.max(...values)]);
    });
    expect([low[1]![0], high[1]![0]]).toEqual([Infinity, -Infinity]);
  });
});
