import { createHash } from 'node:crypto';
import type { Recording } from '@lucky-needle/core/model';
import type { ReadoutChannel } from '@lucky-needle/core/reading';
import { lineKey } from './lineKey.ts';

/** What a view is made with: another number, and all are made anew. */
const MADE_WITH = 4;

/** Views of the same samples by the same line are the same, whatever it is called. */
export function viewId(recording: Recording, channel: ReadoutChannel): string {
  const made = {
    with: MADE_WITH,
    of: recording.id,
    pieces: recording.pieces,
    columns: recording.columns.map((c) => c.name),
    line: lineKey(channel, recording.sampleRateHz),
    warmUpS: channel.warmUpS ?? 0,
  };
  return createHash('sha256').update(JSON.stringify(made)).digest('hex');
}
