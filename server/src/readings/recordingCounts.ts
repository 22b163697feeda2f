import type { Knex } from 'knex';
import { WatchError, type WatchedEvent } from '@lucky-needle/core/detect';
import type { FigureReading } from '@lucky-needle/core/figures';
import type { Recording } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';
import { createWatchedReadout, type WatchedChannel } from '@lucky-needle/core/reading';
import { walkSamples } from '../recordings/pieces.ts';
import type { Told } from './recordingReadings.ts';
import { readingStarts } from './readingStarts.ts';

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
  const needed = neededOf(channels);
  const readout = createWatchedReadout({
    columns: recording.columns.map((c) => c.name),
    sampleRateHz: recording.sampleRateHz,
    channels: needed,
  });
  // Only a whole recording of a live link begins with what its lines remembered.
  if (recording.pieces === null) {
    const starts = readingStarts(knex);
    for (const [k, channel] of needed.entries()) {
      const memory = await starts.find(recording.id, channel, recording.sampleRateHz);
      if (memory && readout.readout.lines[k]!.line) readout.restoreLine(k, memory);
    }
  }
  const found = needed.map((): { events: WatchedEvent[]; count: number } => ({ events: [], count: 0 }));
  const seen = (k: number, event: WatchedEvent) => {
    found[k]!.count++;
    if (found[k]!.events.length < MOST_EVENTS) found[k]!.events.push(event);
  };
  const presses = pressesOf(recording, needed);
  let pressed = 0;
  const lengthS = Math.max(1e-9, (recording.lastTimeS ?? 0) - (recording.firstTimeS ?? 0));
  for await (const { samples } of walkSamples(knex, recording, { piece: 0, chunk: 0 })) {
    const { times, columns } = samples;
    let from = 0;
    // Up to each press, then the press, then on: as it was live.
    while (from < times.length) {
      const next = presses[pressed];
      const to = next ? Math.max(from, lowerBound(times, next.timeS)) : times.length;
      if (to > from)
        readout.feed(
          {
            length: to - from,
            times: times.subarray(from, to),
            columns: columns.map((c) => c.subarray(from, to)),
          },
          () => undefined,
          seen,
        );
      from = to;
      if (to >= times.length) break;
      const { channel, watchId, timeS } = next!;
      readout.press(channel, watchId, timeS, (event) => seen(channel, event));
      pressed++;
    }
    told((times.at(-1)! - (recording.firstTimeS ?? 0)) / lengthS);
  }
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

/** Channels on which something counts, and those that their figures need. */
function neededOf(channels: readonly WatchedChannel[]): WatchedChannel[] {
  const wanted = new Set(
    channels.flatMap((c) => (c.watch ? [c.id, ...c.watch.figures.flatMap((f) => f.others)] : [])),
  );
  return channels.filter((c) => wanted.has(c.id));
}

interface Press {
  readonly channel: number;
  readonly watchId: string;
  readonly timeS: number;
}

function pressesOf({ markers }: Recording, channels: readonly WatchedChannel[]): Press[] {
  const buttons = channels.flatMap(({ watch }, channel) =>
    (watch?.watches ?? []).filter((w) => w.kind === 'button').map((w) => ({ ...w, channel })),
  );
  return markers
    .flatMap(({ text, timeS }) =>
      buttons
        .filter((b) => b.name === text)
        .map(({ channel, id }): Press => ({ channel, watchId: id, timeS })),
    )
    .toSorted((a, b) => a.timeS - b.timeS);
}
