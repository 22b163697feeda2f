import type { Knex } from 'knex';
import type { LineMemory } from '@lucky-needle/core/line';
import type { ReadoutChannel } from '@lucky-needle/core/reading';
import { lineKey } from './lineKey.ts';
import { memoryFromText, memoryToText } from './memoryText.ts';

/** What a line remembered at some moment. */
export interface LineStart {
  readonly channel: ReadoutChannel;
  readonly sampleRateHz: number;
  readonly memory: LineMemory;
}

/**
 * What the lines of a live link remembered when a recording began: its readings go on from there, so that they are those that
 * were shown. By another line, such as a later calibration's, a recording begins afresh.
 */
export function readingStarts(knex: Knex) {
  const table = () => knex<{ recording_id: string; key: string; memory: string }>('reading_starts');
  return {
    async keep(recordingId: string, starts: readonly LineStart[]): Promise<void> {
      const rows = new Map(
        starts.map(({ channel, sampleRateHz, memory }) => [
          lineKey(channel, sampleRateHz),
          memoryToText(memory),
        ]),
      );
      if (rows.size === 0) return;
      await table().insert([...rows].map(([key, memory]) => ({ recording_id: recordingId, key, memory })));
    },
    async find(
      recordingId: string,
      channel: ReadoutChannel,
      sampleRateHz: number,
    ): Promise<LineMemory | null> {
      const row = await table()
        .where({ recording_id: recordingId, key: lineKey(channel, sampleRateHz) })
        .first();
      return row ? (memoryFromText(row.memory) as LineMemory) : null;
    },
  };
}
