import { crc32 } from 'node:zlib';
import type { Knex } from 'knex';
import { ProblemError } from '../http/problem.ts';
import { packOverview, packRanges, unpackOverview, type Buckets, type Samples } from '../db/overview.ts';

export type { Samples } from '../db/overview.ts';

/** Samples a chunk holds when full. */
export const CHUNK_SAMPLES = 4096;

interface ChunkRow {
  recording_id: string;
  seq: number;
  first_time_s: number;
  last_time_s: number;
  count: number;
  ranges: Buffer;
  samples: Buffer;
  checksum: number;
}

/** Samples with the same numbers as they are stored: times, then each column. */
export interface PackedSamples extends Samples {
  readonly packed: Float64Array<ArrayBuffer>;
}

/** Chunks that come out of it in one: a look-up takes about as long as reading one. */
const READ_AT_ONCE = 8;

/** Chunks that go to the database in one statement; each statement takes as long to be made as a chunk to be written. */
export const CHUNKS_AT_ONCE = 24;

/** A chunk as it lies on disk, with its overview. */
export interface StoredChunk {
  readonly chunk: ChunkRow;
  readonly overview: OverviewRow;
}

/** Chunks of a recording, with this number and those that follow, new or grown, ready to be written. */
export function storedChunks(
  recordingId: string,
  seq: number,
  chunks: readonly PackedSamples[],
): StoredChunk[] {
  return chunks.map((chunk, i) => {
    const { packed, times, columns } = chunk;
    const bytes = Buffer.from(packed.buffer, packed.byteOffset, packed.byteLength);
    const data = packOverview(chunk);
    const key = {
      recording_id: recordingId,
      seq: seq + i,
      first_time_s: times[0]!,
      last_time_s: times.at(-1)!,
    };
    return {
      chunk: {
        ...key,
        count: times.length,
        ranges: packRanges(data, columns.length),
        samples: bytes,
        checksum: crc32(bytes),
      },
      overview: { ...key, data },
    };
  });
}

/** Writes chunks of any recordings, within the given transaction. */
export async function writeChunks(trx: Knex, stored: readonly StoredChunk[]): Promise<void> {
  for (let from = 0; from < stored.length; from += CHUNKS_AT_ONCE) {
    const some = stored.slice(from, from + CHUNKS_AT_ONCE);
    for (const [table, rows] of [
      ['chunks', some.map((s) => s.chunk)],
      ['overviews', some.map((s) => s.overview)],
    ] as const)
      await trx(table)
        .insert([...rows])
        .onConflict(['recording_id', 'seq'])
        .merge();
  }
}

interface OverviewRow {
  recording_id: string;
  seq: number;
  first_time_s: number;
  last_time_s: number;
  data: Buffer;
}

/** Samples of the chunks that touch a stretch of time: whole chunks are counted, so it is a few too many. */
export async function countAbout(knex: Knex, id: string, fromS: number, toS: number): Promise<number> {
  const row = await touching(knex<ChunkRow>('chunks').where({ recording_id: id }), fromS, toS)
    .sum({ n: 'count' })
    .first();
  return Number(row?.['n'] ?? 0);
}

/** Samples of the chunks that lie wholly inside a stretch of time, by what stands beside them. */
export async function countInside(
  knex: Knex,
  id: string,
  fromS: number,
  toS: number,
): Promise<{ count: number; firstS: number; lastS: number } | null> {
  const query = knex<ChunkRow>('chunks').where({ recording_id: id });
  if (Number.isFinite(fromS)) query.where('first_time_s', '>=', fromS);
  if (Number.isFinite(toS)) query.where('last_time_s', '<=', toS);
  const row = (await query
    .sum({ count: 'count' })
    .min({ firstS: 'first_time_s' })
    .max({ lastS: 'last_time_s' })
    .first()) as { count: number | null; firstS: number; lastS: number };
  return row.count === null ? null : { count: row.count, firstS: row.firstS, lastS: row.lastS };
}

/** Every 64 samples of the chunks that touch a stretch of time, without their samples. */
export async function readOverviews(
  knex: Knex,
  id: string,
  columnCount: number,
  fromS: number,
  toS: number,
): Promise<Buckets[]> {
  const rows = (await touching(knex<OverviewRow>('overviews').where({ recording_id: id }), fromS, toS)
    .orderBy('seq')
    .select('data')) as Pick<OverviewRow, 'data'>[];
  return rows.map((r) => unpackOverview(r.data, columnCount));
}

/** One bucket a chunk, from what stands beside its samples. */
export async function readChunkRanges(
  knex: Knex,
  id: string,
  columnCount: number,
  fromS: number,
  toS: number,
): Promise<Buckets> {
  const rows = (await touching(knex<ChunkRow>('chunks').where({ recording_id: id }), fromS, toS)
    .orderBy('seq')
    .select('first_time_s', 'last_time_s', 'ranges')) as Pick<
    ChunkRow,
    'first_time_s' | 'last_time_s' | 'ranges'
  >[];
  const ranges = rows.map((r) => new Float64Array(new Uint8Array(r.ranges).buffer));
  const columns = Array.from({ length: columnCount }, (_, k) => k);
  return {
    firstS: Float64Array.from(rows, (r) => r.first_time_s),
    lastS: Float64Array.from(rows, (r) => r.last_time_s),
    low: columns.map((k) => Float64Array.from(ranges, (r) => r[2 * k]!)),
    high: columns.map((k) => Float64Array.from(ranges, (r) => r[2 * k + 1]!)),
  };
}

function touching<Q extends Knex.QueryBuilder>(query: Q, fromS: number, toS: number): Q {
  if (Number.isFinite(fromS)) query.where('last_time_s', '>=', fromS);
  if (Number.isFinite(toS)) query.where('first_time_s', '<=', toS);
  return query;
}

/** What is read of a chunk. */
type ReadRow = Pick<ChunkRow, 'seq' | 'count' | 'samples' | 'checksum'>;

/** Asks a database that holds chunks: through the pool, or by a connection of one's own. */
export type AskChunks = (
  sql: string,
  values: readonly (string | number)[],
) => Promise<readonly ReadRow[]> | readonly ReadRow[];

/** Through the pool. */
export const askPool =
  (knex: Knex): AskChunks =>
  (sql, values) =>
    knex.raw(sql, values as (string | number)[]);

/**
 * Reads the chunks of a recording that touch a stretch of time, one after the other.
 * @param only those that reach out of it, or those from one on
 * @throws {ProblemError} when a chunk no longer matches its checksum
 */
export async function* readChunks(
  ask: AskChunks,
  recordingId: string,
  columnCount: number,
  fromS = -Infinity,
  toS = Infinity,
  { edgesOnly = false, firstSeq = 0 }: { edgesOnly?: boolean; firstSeq?: number } = {},
): AsyncGenerator<Samples & { readonly seq: number }> {
  let seq = firstSeq - 1;
  const outside = edgesOnly ? ' AND (first_time_s < ? OR last_time_s > ?)' : '';
  const sql = `SELECT seq, count, samples, checksum FROM chunks
    WHERE recording_id = ? AND seq > ? AND last_time_s >= ? AND first_time_s <= ?${outside}
    ORDER BY seq LIMIT ${READ_AT_ONCE}`;
  for (;;) {
    const values = [recordingId, seq, fromS, toS, ...(edgesOnly ? [fromS, toS] : [])];
    const rows = await ask(sql, values);
    for (const row of rows) {
      seq = row.seq;
      checkChunk(row);
      yield { seq, ...unpack(row.samples, row.count, columnCount) };
    }
    if (rows.length < READ_AT_ONCE) return;
  }
}

/** @throws {ProblemError} when it no longer matches its checksum */
function checkChunk({ seq, samples, checksum }: ReadRow): void {
  if (crc32(samples) !== checksum) {
    throw new ProblemError(
      500,
      'chunk-damaged',
      'Stored samples are damaged',
      `Data block ${seq} of the run does not match its checksum.`,
      'The disk may be failing. Copy the data folder to another disk and restore a backup.',
    );
  }
}

function unpack(bytes: Buffer, count: number, columnCount: number): Samples {
  // Where it lies, if that is on a multiple of eight bytes; else a copy of its own.
  const all =
    bytes.byteOffset % 8 === 0
      ? new Float64Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 8)
      : new Float64Array(new Uint8Array(bytes).buffer);
  const column = (i: number) => all.subarray(count * i, count * (i + 1));
  return { times: column(0), columns: Array.from({ length: columnCount }, (_, i) => column(i + 1)) };
}
