import { crc32 } from 'node:zlib';
import type { Knex } from 'knex';
import { ProblemError } from '../http/problem.ts';
import { packOverview, unpackOverview, type Buckets } from './overview.ts';

/** Samples a chunk holds when full. */
export const CHUNK_SAMPLES = 4096;

export interface Samples {
  readonly times: Float64Array;
  readonly columns: readonly Float64Array[];
}

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

/** Writes the chunk with this number, new or grown, within the given transaction. */
export async function writeChunk(
  trx: Knex,
  recordingId: string,
  seq: number,
  samples: Samples,
): Promise<void> {
  const count = samples.times.length;
  const bytes = pack(samples);
  const row: ChunkRow = {
    recording_id: recordingId,
    seq,
    first_time_s: samples.times[0]!,
    last_time_s: samples.times[count - 1]!,
    count,
    ranges: ranges(samples),
    samples: bytes,
    checksum: crc32(bytes),
  };
  await trx<ChunkRow>('chunks').insert(row).onConflict(['recording_id', 'seq']).merge();
  const overview: OverviewRow = {
    recording_id: recordingId,
    seq,
    first_time_s: row.first_time_s,
    last_time_s: row.last_time_s,
    data: packOverview(samples),
  };
  await trx<OverviewRow>('overviews').insert(overview).onConflict(['recording_id', 'seq']).merge();
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

/**
 * Reads the chunks of a recording that touch a stretch of time, one after the other.
 * @param edgesOnly only those that reach out of it
 * @throws {ProblemError} when a chunk no longer matches its checksum
 */
export async function* readChunks(
  knex: Knex,
  recordingId: string,
  columnCount: number,
  fromS = -Infinity,
  toS = Infinity,
  edgesOnly = false,
): AsyncGenerator<Samples> {
  let seq = -1;
  for (;;) {
    const query = touching(
      knex<ChunkRow>('chunks').where({ recording_id: recordingId }).where('seq', '>', seq),
      fromS,
      toS,
    );
    if (edgesOnly) query.where((q) => q.where('first_time_s', '<', fromS).orWhere('last_time_s', '>', toS));
    const row = await query.orderBy('seq').first();
    if (!row) return;
    seq = row.seq;
    if (crc32(row.samples) !== row.checksum) {
      throw new ProblemError(
        500,
        'chunk-damaged',
        'Stored samples are damaged',
        `Chunk ${seq} of the recording does not match its checksum.`,
        'The disk may be failing: copy the data folder away and restore a backup.',
      );
    }
    yield unpack(row.samples, row.count, columnCount);
  }
}

function pack({ times, columns }: Samples): Buffer {
  const count = times.length;
  const all = new Float64Array(count * (columns.length + 1));
  all.set(times, 0);
  columns.forEach((column, i) => all.set(column, count * (i + 1)));
  return Buffer.from(all.buffer);
}

function unpack(bytes: Buffer, count: number, columnCount: number): Samples {
  // A copy of its own: the buffer of a row need not start on a multiple of eight bytes.
  const all = new Float64Array(new Uint8Array(bytes).buffer);
  const column = (i: number) => all.subarray(count * i, count * (i + 1));
  return { times: column(0), columns: Array.from({ length: columnCount }, (_, i) => column(i + 1)) };
}

/** Lowest and highest of each column, for overviews that need no samples. */
function ranges({ columns }: Samples): Buffer {
  const result = new Float64Array(columns.length * 2);
  columns.forEach((column, i) => {
    let low = Infinity;
    let high = -Infinity;
    for (const v of column) {
      if (v < low) low = v;
      if (v > high) high = v;
    }
    result[2 * i] = low;
    result[2 * i + 1] = high;
  });
  return Buffer.from(result.buffer);
}
