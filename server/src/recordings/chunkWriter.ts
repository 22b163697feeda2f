import type { Knex } from 'knex';
import { CHUNK_SAMPLES, writeChunk } from './sampleStore.ts';

/**
 * Collects samples of one recording and writes them as chunks. What has not been committed stays in memory, whatever
 * goes wrong, until a later commit succeeds.
 */
export class ChunkWriter {
  private readonly knex: Knex;
  private readonly recordingId: string;
  private readonly columnCount: number;
  private seq = 0;
  /** Samples of the chunk being filled and of those waiting behind it. */
  private times: number[] = [];
  private columns: number[][];
  private committedOfTail = 0;
  private committedTotal = 0;

  constructor(knex: Knex, recordingId: string, columnCount: number) {
    this.knex = knex;
    this.recordingId = recordingId;
    this.columnCount = columnCount;
    this.columns = Array.from({ length: columnCount }, () => []);
  }

  get waiting(): number {
    return this.times.length - this.committedOfTail;
  }

  get committed(): number {
    return this.committedTotal;
  }

  append(timeS: number, values: readonly number[]): void {
    this.times.push(timeS);
    for (let i = 0; i < this.columnCount; i++) this.columns[i]!.push(values[i] ?? Number.NaN);
  }

  /**
   * Writes everything collected so far in one transaction.
   * @param within more to be written in the same transaction, told the new total
   */
  async commit(within?: (trx: Knex, total: number, lastTimeS: number) => Promise<void>): Promise<void> {
    const length = this.times.length;
    if (length === this.committedOfTail) return;
    const total = this.committedTotal + (length - this.committedOfTail);
    const lastTimeS = this.times[length - 1]!;
    let seq = this.seq;
    await this.knex.transaction(async (trx) => {
      for (let from = 0; from < length; from += CHUNK_SAMPLES) {
        const to = Math.min(length, from + CHUNK_SAMPLES);
        await writeChunk(trx, this.recordingId, seq, {
          times: Float64Array.from(this.times.slice(from, to)),
          columns: this.columns.map((column) => Float64Array.from(column.slice(from, to))),
        });
        if (to - from === CHUNK_SAMPLES) seq++;
      }
      await within?.(trx, total, lastTimeS);
    });
    // Samples may have come in meanwhile: drop the full chunks only, and remember what of the tail is safe.
    const full = Math.floor(length / CHUNK_SAMPLES) * CHUNK_SAMPLES;
    this.times.splice(0, full);
    this.columns.forEach((column) => column.splice(0, full));
    this.committedOfTail = length - full;
    this.committedTotal = total;
    this.seq = seq;
  }
}
