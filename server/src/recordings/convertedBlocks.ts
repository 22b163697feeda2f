import type { Knex } from 'knex';
import { calibratedLine } from '@lucky-needle/core/calibrate';
import type { CsvColumn } from '@lucky-needle/core/formats';
import { compileLine } from '@lucky-needle/core/line';
import type { Calibration, Gadget, Recording } from '@lucky-needle/core/model';
import { readSamples } from './pieces.ts';
import type { Samples } from './sampleStore.ts';

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

/** A recording with its readings, through the lines with their calibrations in use; raw columns alone when wanted so. */
export function convertedRecording(
  knex: Knex,
  recording: Recording,
  gadget: Gadget,
  calibrations: readonly Calibration[],
  rawOnly = false,
): ConvertedRecording {
  const context = { sampleRateHz: recording.sampleRateHz };
  const at = (name: string) => recording.columns.findIndex((c) => c.name === name);
  const channels = gadget.channels
    .filter(
      (channel) =>
        !rawOnly && channel.line.stages.length > 0 && channel.line.sources.every((s) => at(s.column) >= 0),
    )
    .map((channel) => {
      const used = calibratedLine(channel.line, channel.id, calibrations);
      const line = compileLine(used.line, context);
      return {
        name: channel.name,
        sources: line.sources.map((s) => at(s.name)),
        line,
        calibration: used.calibration?.number ?? null,
      };
    });

  async function* blocks(): AsyncGenerator<Samples> {
    const runs = channels.map(({ line }) => line.start([line.stages.length]));
    for await (const samples of readSamples(knex, recording)) {
      const length = samples.times.length;
      const readings = channels.map(({ line, sources }, k) => {
        const values = new Float64Array(length).fill(Number.NaN);
        let row = 0;
        const lanes = sources.map((i) => ({ values: samples.columns[i]!, reasons: new Uint8Array(length) }));
        runs[k]!.process({ length, times: samples.times, lanes }, (done) => {
          const block = done[line.stages.length]!;
          // A line may give fewer readings than it takes: each stands in the row of its own instant.
          for (let i = 0; i < block.length; i++) {
            while (row < length && samples.times[row]! < block.times[i]!) row++;
            if (row < length) values[row++] = block.lanes[0]!.values[i]!;
          }
        });
        return values;
      });
      yield { times: samples.times, columns: [...samples.columns, ...readings] };
    }
  }

  return {
    columns: [
      ...recording.columns.map((c) => ({ ...c, raw: true })),
      ...channels.map((c) => ({ name: c.name, unit: c.line.outputs[0]!.unit, raw: false })),
    ],
    blocks,
    made: channels.map((c) => ({ channel: c.name, calibration: c.calibration, line: c.line.spec })),
  };
}
