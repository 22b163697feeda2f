import type { Knex } from 'knex';
import type { CsvColumn } from '@lucky-needle/core/formats';
import type { LineMemory } from '@lucky-needle/core/line';
import type { Recording } from '@lucky-needle/core/model';
import { lineColumns } from '@lucky-needle/core/line';
import { createReadout, type ReadoutChannel } from '@lucky-needle/core/reading';
import { readSamples } from './pieces.ts';
import type { Samples } from './sampleStore.ts';

/** A channel that a recording is read by. */
export interface ConvertedChannel {
  readonly name: string;
  /** Number of its calibration; null as bought. */
  readonly calibration: number | null;
  readonly readout: ReadoutChannel;
  /** What its line remembered when the recording began; null to begin afresh. */
  readonly start: LineMemory | null;
}

export interface ConvertedRecording {
  /** Raw columns first, then the reading of every channel that can be converted. */
  readonly columns: readonly CsvColumn[];
  /** Samples with those columns, chunk by chunk. */
  blocks(): AsyncGenerator<Samples>;
  /** How the readings were made: line and calibration of each channel. */
  readonly made: readonly {
    readonly channel: string;
    readonly calibration: number | null;
    readonly line: unknown;
  }[];
}

/** A recording with the readings of some channels; raw columns alone when there are none. */
export function convertedRecording(
  knex: Knex,
  recording: Recording,
  channels: readonly ConvertedChannel[],
): ConvertedRecording {
  const columns = recording.columns.map((c) => c.name);
  const spec = {
    columns,
    sampleRateHz: recording.sampleRateHz,
    channels: channels
      .map((c) => c.readout)
      .filter((c) => c.line.stages.length > 0 && lineColumns(c.line).every((name) => columns.includes(name))),
  };
  // A channel that cannot run is left out: the raw columns are there all the same.
  const runs = createReadout(spec).lines.flatMap(({ id, line }, k) =>
    line ? [{ line, channel: channels.find((c) => c.readout.id === id)!, place: k }] : [],
  );

  async function* blocks(): AsyncGenerator<Samples> {
    const readout = createReadout(spec);
    spec.channels.forEach(({ id }, k) => {
      const start = channels.find((c) => c.readout.id === id)?.start;
      if (start && readout.lines[k]!.line) readout.restoreChannel(k, start);
    });
    for await (const samples of readSamples(knex, recording)) {
      const length = samples.times.length;
      const readings = spec.channels.map(() => new Float64Array(length).fill(Number.NaN));
      const rows = spec.channels.map(() => 0);
      readout.feed({ length, ...samples }, (channel, stages) => {
        const block = stages.at(-1)!;
        // A line may give fewer readings than it takes: each stands in the row of its own instant.
        let row = rows[channel]!;
        for (let i = 0; i < block.length; i++) {
          while (row < length && samples.times[row]! < block.times[i]!) row++;
          if (row < length) readings[channel]![row++] = block.lanes[0]!.values[i]!;
        }
        rows[channel] = row;
      });
      yield {
        times: samples.times,
        columns: [...samples.columns, ...runs.map(({ place }) => readings[place]!)],
      };
    }
  }

  return {
    columns: [
      ...recording.columns.map((c) => ({ ...c, raw: true })),
      ...runs.map(({ channel, line }) => ({
        name: channel.name,
        unit: line.outputs[0]!.unit,
        raw: false,
      })),
    ],
    blocks,
    made: runs.map(({ channel, line }) => ({
      channel: channel.name,
      calibration: channel.calibration,
      line: line.spec,
    })),
  };
}
