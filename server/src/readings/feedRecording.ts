import type { Knex } from 'knex';
import type { WatchedEvent } from '@lucky-needle/core/detect';
import type { Recording } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';
import {
  createWatchedReadout,
  type TakeStages,
  type WatchedChannel,
  type WatchedReadout,
} from '@lucky-needle/core/reading';
import { walkAside } from '../recordings/readAside.ts';
import { standAside } from '../recordings/turns.ts';
import { lineStarts } from './lineStarts.ts';
import type { Told } from './told.ts';

export interface RecordingReadout {
  readonly readout: WatchedReadout;
  /** Channels on which something counts, and those that their figures need: in the order of the readout. */
  readonly needed: readonly WatchedChannel[];
}

/** A readout for a recording, with what its lines remembered when it began. @param channels all of the gadget @param also those that are read though nothing counts on them */
export async function openRecordingReadout(
  knex: Knex,
  recording: Recording,
  channels: readonly WatchedChannel[],
  also: readonly string[] = [],
): Promise<RecordingReadout> {
  const needed = neededOf(channels, also);
  const readout = createWatchedReadout({
    columns: recording.columns.map((c) => c.name),
    sampleRateHz: recording.sampleRateHz,
    channels: needed,
  });
  const starts = await lineStarts(knex, recording, needed);
  starts.forEach((memory, k) => {
    if (memory && readout.readout.lines[k]!.line) readout.restoreLine(k, memory);
  });
  return { readout, needed };
}

/** The channels as a recording is read by them: what was brought in from a file says nothing of when it was switched on. */
export const asRecorded = (
  { state }: Pick<Recording, 'state'>,
  channels: readonly WatchedChannel[],
): readonly WatchedChannel[] =>
  state === 'imported' ? channels.map((c) => ({ ...c, warmUpS: 0 })) : channels;

/** Something that happens at a moment of a recording, before the rows from then on. */
export interface Moment {
  readonly timeS: number;
  act(): void;
}

type Seen = (channel: number, event: WatchedEvent) => void;

/**
 * Feeds the rows of a recording to its readout, as it was live: buttons that were pressed by hand stand in it as marks of the
 * watch's name.
 * @param afterS rows up to this time were fed before @param moments what else happens meanwhile
 * @returns the time of the newest row that was fed; `afterS` when there was none
 */
export async function feedRecording(
  knex: Knex,
  recording: Recording,
  { readout, needed }: RecordingReadout,
  afterS: number,
  moments: readonly Moment[],
  seen: Seen,
  told: Told = () => undefined,
  take: TakeStages = () => undefined,
): Promise<number> {
  const all = [
    ...pressesOf(recording, needed).map(({ channel, watchId, timeS }): Moment => ({
      timeS,
      act: () => readout.press(channel, watchId, timeS, (event) => seen(channel, event)),
    })),
    ...moments,
  ]
    .filter((m) => m.timeS > afterS)
    .toSorted((a, b) => a.timeS - b.timeS);
  let acted = 0;
  let newestS = afterS;
  const beganS = recording.firstTimeS ?? 0;
  const lengthS = Math.max(1e-9, (recording.lastTimeS ?? 0) - beganS);
  for await (const { samples } of walkAside(knex, recording, afterS)) {
    await standAside();
    const { times, columns } = samples;
    let from = 0;
    while (from < times.length && times[from]! <= afterS) from++;
    while (from < times.length) {
      const next = all[acted];
      const to = next ? Math.max(from, lowerBound(times, next.timeS)) : times.length;
      if (to > from) {
        readout.feed(
          {
            length: to - from,
            times: times.subarray(from, to),
            columns: columns.map((c) => c.subarray(from, to)),
          },
          take,
          seen,
        );
        newestS = times[to - 1]!;
      }
      from = to;
      if (to >= times.length) break;
      next!.act();
      acted++;
    }
    told((newestS - beganS) / lengthS);
  }
  return newestS;
}

function neededOf(channels: readonly WatchedChannel[], also: readonly string[]): WatchedChannel[] {
  const wanted = new Set([
    ...also,
    ...channels.flatMap((c) => (c.watch ? [c.id, ...c.watch.figures.flatMap((f) => f.others)] : [])),
  ]);
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
  return markers.flatMap(({ text, timeS }) =>
    buttons.filter((b) => b.name === text).map(({ channel, id }): Press => ({ channel, watchId: id, timeS })),
  );
}
