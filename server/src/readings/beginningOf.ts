import type { Knex } from 'knex';
import type { Recording } from '@lucky-needle/core/model';
import type { Reading, ReadoutChannel } from '@lucky-needle/core/reading';
import { lineStarts } from './lineStarts.ts';
import { memoryOf } from './segmentRun.ts';
import type { Cursor } from './viewStore.ts';

/** Before the first reading, and behind the last. */
export const NOTHING: Reading = { timeS: Number.NaN, value: Number.NaN };

/** Where a recording begins, with what its line remembers there. Null to begin afresh. */
export async function beginningOf(
  knex: Knex,
  recording: Recording,
  channel: ReadoutChannel,
): Promise<Cursor | null> {
  const [memory] = await lineStarts(knex, recording, [channel]);
  return memory
    ? {
        at: { piece: 0, chunk: 0 },
        memory: memoryOf(recording, channel, memory),
        newest: NOTHING,
        rawS: Number.NaN,
      }
    : null;
}
