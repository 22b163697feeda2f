import { crc32 } from 'node:zlib';
import type { Knex } from 'knex';
import { ProblemError } from '../http/problem.ts';

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
}

/**
 * Reads the chunks of a recording that touch a stretch of time, one after the other.
 * @throws {ProblemError} when a chunk no longer matches its checksum
 */
export async function* readChunks(
  knex: Knex,
  recordingId: string,
  columnCount: number,
  fromS = -Infinity,
  toS = Infinity,
): AsyncGenerator<Samples> {
  let seq = -1;
  for (;;) {
    const query = knex<ChunkRow>('chunks').where({ recording_id: recordingId }).where('seq', '>', seq);
    if (Number.isFinite(fromS)) query.where('last_time_s', '>=', fromS);
    if (Number.isFinite(toS)) query.where('first_time_s', '<=', toS);
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
