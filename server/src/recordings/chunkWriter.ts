import type { Knex } from 'knex';
import { larger } from './larger.ts';
import { CHUNK_SAMPLES, writeChunk, type Samples } from './sampleStore.ts';

/**
 * Collects samples of one recording and writes them as chunks. What has not been committed stays in memory, whatever
 * goes wrong, until a later commit succeeds.
 */
export class ChunkWriter {
  private readonly knex: Knex;
  private readonly recordingId: string;
  private seq = 0;
  /** Samples of the chunk being filled and of those waiting behind it, in buffers that grow. */
  private times = new Float64Array(CHUNK_SAMPLES);
  private readonly columns: Float64Array[];
  private length = 0;
  private committedOfTail = 0;
  private committedTotal = 0;

  constructor(knex: Knex, recordingId: string, columnCount: number) {
    this.knex = knex;
    this.recordingId = recordingId;
    this.columns = Array.from({ length: columnCount }, () => new Float64Array(CHUNK_SAMPLES));
  }

  get waiting(): number {
    return this.length - this.committedOfTail;
  }

  get committed(): number {
    return this.committedTotal;
  }

  append(timeS: number, values: ArrayLike<number>): void {
    if (this.length === this.times.length) this.grow();
    this.times[this.length] = timeS;
    for (let k = 0; k < this.columns.length; k++) this.columns[k]![this.length] = values[k] ?? Number.NaN;
    this.length++;
  }

  /** The first so many samples of some buffers at once, column by column. */
  appendAll({ times, columns }: Samples, count: number): void {
    while (this.length + count > this.times.length) this.grow();
    this.times.set(times.subarray(0, count), this.length);
    columns.forEach((column, k) => this.columns[k]!.set(column.subarray(0, count), this.length));
    this.length += count;
  }

  /**
   * Writes everything collected so far in one transaction.
   * @param within more to be written in the same transaction, told the new total
   */
  async commit(within?: (trx: Knex, total: number, lastTimeS: number) => Promise<void>): Promise<void> {
    // What comes in meanwhile goes behind these, or into larger buffers.
    const { length, times } = this;
    const columns = [...this.columns];
    if (length === this.committedOfTail) return;
    const total = this.committedTotal + (length - this.committedOfTail);
    const lastTimeS = times[length - 1]!;
    let seq = this.seq;
    await this.knex.transaction(async (trx) => {
      for (let from = 0; from < length; from += CHUNK_SAMPLES) {
        const to = Math.min(length, from + CHUNK_SAMPLES);
        await writeChunk(trx, this.recordingId, seq, {
          times: times.subarray(from, to),
          columns: columns.map((column) => column.subarray(from, to)),
        });
        if (to - from === CHUNK_SAMPLES) seq++;
      }
      await within?.(trx, total, lastTimeS);
    });
    // Samples may have come in meanwhile: drop the full chunks only, and remember what of the tail is safe.
    const full = Math.floor(length / CHUNK_SAMPLES) * CHUNK_SAMPLES;
    for (const buffer of [this.times, ...this.columns]) buffer.copyWithin(0, full, this.length);
    this.length -= full;
    this.committedOfTail = length - full;
    this.committedTotal = total;
    this.seq = seq;
  }

  private grow(): void {
    this.times = larger(this.times);
    this.columns.forEach((column, k) => (this.columns[k] = larger(column)));
  }
}
