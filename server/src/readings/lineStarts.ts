import type { Knex } from 'knex';
import type { LineMemory } from '@lucky-needle/core/line';
import type { Recording } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';
import { createReadout, type ReadoutChannel } from '@lucky-needle/core/reading';
import { walkSamples } from '../recordings/pieces.ts';
import { readingStarts } from './readingStarts.ts';

/**
 * What the line of each channel remembers where a recording begins: of a live link, what it remembered then; of a stretch that
 * was cut out of another run, what it has made of the rows before, so that a moment reads the same in both. Null where it
 * begins afresh: by another line than the link's, and in a run that begins with a stretch that was moved in time.
 */
export async function lineStarts(
  knex: Knex,
  recording: Pick<Recording, 'id' | 'pieces' | 'columns' | 'sampleRateHz'>,
  channels: readonly ReadoutChannel[],
): Promise<(LineMemory | null)[]> {
  const { sampleRateHz, columns } = recording;
  const [first] = recording.pieces ?? [];
  // What looks at the clock would not find its own time again.
  if (first && first.shiftS !== 0) return channels.map(() => null);
  const owner = first?.of ?? recording.id;
  const starts = readingStarts(knex);
  const known = await Promise.all(channels.map((channel) => starts.find(owner, channel, sampleRateHz)));
  const toS = first?.fromS ?? null;
  if (toS === null) return known;
  const readout = createReadout({ columns: columns.map((c) => c.name), sampleRateHz, channels });
  known.forEach((memory, k) => {
    if (memory && readout.lines[k]!.line) readout.restoreChannel(k, memory);
  });
  const whole = { id: owner, pieces: null, columns };
  for await (const { samples } of walkSamples(knex, whole, { piece: 0, chunk: 0 }, -Infinity, toS)) {
    const length = lowerBound(samples.times, toS);
    readout.feed(
      {
        length,
        times: samples.times.subarray(0, length),
        columns: samples.columns.map((c) => c.subarray(0, length)),
      },
      () => undefined,
    );
  }
  return channels.map((_, k) => readout.saveChannel(k));
}
