import type { Knex } from 'knex';
import { WatchError, type WatchedEvent } from '@lucky-needle/core/detect';
import type { FigureReading } from '@lucky-needle/core/figures';
import type { Recording } from '@lucky-needle/core/model';
import type { WatchedChannel } from '@lucky-needle/core/reading';
import { feedRecording, openRecordingReadout } from './feedRecording.ts';
import type { Told } from './told.ts';

export interface ChannelCounts {
  readonly channelId: string;
  /** Why nothing can be counted; null when it can. */
  readonly problem: string | null;
  /** The first of them, as many as are kept. */
  readonly events: readonly WatchedEvent[];
  /** How many there are. */
  readonly count: number;
  readonly figures: readonly FigureReading[];
}

/** Events that are kept of a channel, at the most. */
const MOST_EVENTS = 5000;

/**
 * What counts in a recording, and what is made of it: its rows through the same readout as live. What was pressed by hand
 * stands in the recording as marks of the watch's name.
 * @param channels all channels of the gadget: figures may need others than their own
 */
export async function recordingCounts(
  knex: Knex,
  recording: Recording,
  channels: readonly WatchedChannel[],
  told: Told = () => undefined,
): Promise<ChannelCounts[]> {
  const opened = await openRecordingReadout(knex, recording, channels);
  const { readout, needed } = opened;
  const found = needed.map((): { events: WatchedEvent[]; count: number } => ({ events: [], count: 0 }));
  const seen = (k: number, event: WatchedEvent) => {
    found[k]!.count++;
    if (found[k]!.events.length < MOST_EVENTS) found[k]!.events.push(event);
  };
  await feedRecording(knex, recording, opened, -Infinity, [], seen, told);
  return needed.flatMap((channel, k): ChannelCounts[] =>
    channel.watch
      ? [
          {
            channelId: channel.id,
            problem:
              readout.readout.lines[k]!.problem?.message ?? fatal(readout.problems[k])?.message ?? null,
            ...found[k]!,
            figures: readout.figures(k),
          },
        ]
      : [],
  );
}

/** A figure that cannot be made says so itself. */
const fatal = (problem: Error | null | undefined) => (problem instanceof WatchError ? problem : null);
