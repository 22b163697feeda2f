import type { Knex } from 'knex';
import type { Recording } from '@lucky-needle/core/model';
import type { ReadoutChannel } from '@lucky-needle/core/reading';
import type { StudySamples } from '@lucky-needle/core/study';
import { readSamples } from '../recordings/pieces.ts';
import type { RecordingReadings, Stretch } from './recordingReadings.ts';

/** Readings of one stretch that a study takes at the most: they are held in memory. */
const MOST_READINGS = 2_000_000;

export interface Held {
  readonly column: string;
  /** Null for the column's mean over the stretch. */
  readonly value: number | null;
}

/**
 * What a study takes of a stretch of a run.
 * @throws {RangeError} in words, where it is too much or the column is not there
 */
export async function studySamples(
  knex: Knex,
  readings: RecordingReadings,
  recording: Recording,
  channel: ReadoutChannel,
  stretch: Stretch | null,
  held: Held | null,
): Promise<StudySamples> {
  const { fromS, toS } = stretch ?? { fromS: -Infinity, toS: Infinity };
  const column = held ? recording.columns.findIndex((c) => c.name === held.column) : -1;
  if (held && column === -1)
    throw new RangeError(
      `${recording.name} has no column "${held.column}". Its columns: ${recording.columns.map((c) => c.name).join(', ')}.`,
    );
  const stamps = growing();
  const inColumn = { sum: 0, n: 0 };
  for await (const { times, columns } of readSamples(knex, recording, fromS, toS)) {
    times.forEach((t) => stamps.push(t));
    if (column !== -1)
      columns[column]!.forEach((v) => {
        if (!Number.isFinite(v)) return;
        inColumn.sum += v;
        inColumn.n++;
      });
    if (stamps.length > MOST_READINGS)
      throw new RangeError(
        `The section of ${recording.name} has more than ${MOST_READINGS / 1e6} million readings. Choose a shorter one.`,
      );
  }
  const [times, values] = [growing(), growing()];
  await readings.each(recording, channel, stretch, (timeS, value) => {
    times.push(timeS);
    values.push(value);
  });
  const own = times.all();
  // Where the line reads at another moment with the column held, there is nothing to compare.
  const instead = held ? new Float64Array(own.length).fill(Number.NaN) : null;
  if (held && instead) {
    const still = held.value ?? inColumn.sum / inColumn.n;
    let next = 0;
    await readings.pairs(
      recording,
      channel,
      channel,
      (timeS, _, value) => {
        while (next < own.length && own[next]! < timeS) next++;
        if (own[next] === timeS) instead[next++] = value;
      },
      (samples) => ({
        ...samples,
        columns: samples.columns.map((c, k) => (k === column ? new Float64Array(c.length).fill(still) : c)),
      }),
    );
  }
  return {
    name: recording.name,
    rateHz: recording.sampleRateHz,
    times: own,
    values: values.all(),
    held: instead,
    stamps: stamps.all(),
  };
}

/** Numbers one after the other. */
function growing() {
  let room = new Float64Array(1024);
  let length = 0;
  return {
    get length() {
      return length;
    },
    push(value: number) {
      if (length === room.length) {
        const larger = new Float64Array(2 * length);
        larger.set(room);
        room = larger;
      }
      room[length++] = value;
    },
    all: () => room.slice(0, length),
  };
}
