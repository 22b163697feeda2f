import type { Knex } from 'knex';
import {
  CHUNK_SAMPLES,
  storedChunks,
  writeChunks,
  type PackedSamples,
  type Samples,
  type StoredChunk,
} from './sampleStore.ts';

/** What a commit writes, and where the recording stands with it. */
export interface Commit {
  /** Packed when it is asked for. */
  chunks(): StoredChunk[];
  readonly total: number;
  readonly lastTimeS: number;
}

/** Emptied chunks that are kept to be filled again: a long import would else leave as much garbage as it stores. */
const KEPT_EMPTY = 32;

/**
 * Collects samples of one recording and writes them as chunks. What has not been committed stays in memory, whatever
 * goes wrong, until a later commit succeeds.
 */
export class ChunkWriter {
  private readonly write: (commit: Commit) => Promise<void>;
  private readonly recordingId: string;
  private readonly columnCount: number;
  private seq = 0;
  /** The chunk with the number `seq` and those behind it; only the last is not full. */
  private chunks: PackedSamples[] = [];
  private empty: PackedSamples[] = [];
  /** Samples in them. */
  private length = 0;
  private committedOfTail = 0;
  private committedTotal = 0;

  /** @param write writes a commit whole or not at all; in a transaction of its own when not given */
  constructor(
    knex: Knex,
    recordingId: string,
    columnCount: number,
    write = (commit: Commit): Promise<void> => knex.transaction((trx) => writeChunks(trx, commit.chunks())),
  ) {
    this.write = write;
    this.recordingId = recordingId;
    this.columnCount = columnCount;
  }

  get waiting(): number {
    return this.length - this.committedOfTail;
  }

  get committed(): number {
    return this.committedTotal;
  }

  append(timeS: number, values: ArrayLike<number>): void {
    const at = this.length % CHUNK_SAMPLES;
    const { times, columns } = this.chunkFor(this.length);
    times[at] = timeS;
    for (let k = 0; k < columns.length; k++) columns[k]![at] = values[k] ?? Number.NaN;
    this.length++;
  }

  /** The first so many samples of some buffers at once, column by column. */
  appendAll(samples: Samples, count: number): void {
    for (let from = 0; from < count;) {
      const at = this.length % CHUNK_SAMPLES;
      const to = Math.min(count, from + CHUNK_SAMPLES - at);
      const { times, columns } = this.chunkFor(this.length);
      times.set(samples.times.subarray(from, to), at);
      columns.forEach((column, k) => column.set(samples.columns[k]!.subarray(from, to), at));
      this.length += to - from;
      from = to;
    }
  }

  /** Writes everything collected so far in one transaction. */
  async commit(): Promise<void> {
    // What comes in meanwhile goes behind these.
    const { length, seq } = this;
    if (length === this.committedOfTail) return;
    const total = this.committedTotal + (length - this.committedOfTail);
    const chunks = this.chunks.slice(0, Math.ceil(length / CHUNK_SAMPLES));
    const full = Math.floor(length / CHUNK_SAMPLES);
    const ofLast = length - (chunks.length - 1) * CHUNK_SAMPLES;
    await this.write({
      chunks: () =>
        storedChunks(
          this.recordingId,
          seq,
          chunks.map((chunk, i) => (i < full ? chunk : begun(chunk, ofLast))),
        ),
      total,
      lastTimeS: chunks.at(-1)!.times[ofLast - 1]!,
    });
    // Samples may have come in meanwhile: drop the full chunks only, and remember what of the tail is safe.
    for (const chunk of this.chunks.splice(0, full))
      if (this.empty.length < KEPT_EMPTY) this.empty.push(chunk);
    this.length -= full * CHUNK_SAMPLES;
    this.committedOfTail = length - full * CHUNK_SAMPLES;
    this.committedTotal = total;
    this.seq = seq + full;
  }

  /** The chunk that the sample at this place belongs to. */
  private chunkFor(place: number): PackedSamples {
    const at = Math.floor(place / CHUNK_SAMPLES);
    return (this.chunks[at] ??= this.empty.pop() ?? chunkOf(CHUNK_SAMPLES, this.columnCount));
  }
}

/** Room for a chunk as it lies on disk. */
function chunkOf(count: number, columnCount: number): PackedSamples {
  const packed = new Float64Array(count * (columnCount + 1));
  const part = (i: number) => packed.subarray(count * i, count * (i + 1));
  return { packed, times: part(0), columns: Array.from({ length: columnCount }, (_, k) => part(k + 1)) };
}

/** The first samples of a chunk that is not full yet, packed by themselves. */
function begun({ times, columns }: PackedSamples, count: number): PackedSamples {
  const chunk = chunkOf(count, columns.length);
  chunk.times.set(times.subarray(0, count));
  chunk.columns.forEach((column, k) => column.set(columns[k]!.subarray(0, count)));
  return chunk;
}
