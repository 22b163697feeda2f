import { once } from 'node:events';
import type { Writable } from 'node:stream';
import type { Knex } from 'knex';
import { calibratedLine } from '@lucky-needle/core/calibrate';
import { csvHeader, csvRow, type CsvColumn } from '@lucky-needle/core/formats';
import { compileLine } from '@lucky-needle/core/line';
import type { Calibration, Gadget, Recording } from '@lucky-needle/core/model';
import { readSamples } from './pieces.ts';

/**
 * Streams a recording as CSV: time, raw columns and, for every channel that can be converted, the reading through the
 * line with its calibration in use.
 */
export async function exportCsv(
  knex: Knex,
  recording: Recording,
  gadget: Gadget,
  calibrations: readonly Calibration[],
  out: Writable,
): Promise<void> {
  const context = { sampleRateHz: recording.sampleRateHz };
  const at = (name: string) => recording.columns.findIndex((c) => c.name === name);
  const channels = gadget.channels
    .filter(
      (channel) => channel.line.stages.length > 0 && channel.line.sources.every((s) => at(s.column) >= 0),
    )
    .map((channel) => {
      const line = compileLine(calibratedLine(channel.line, channel.id, calibrations).line, context);
      return {
        name: channel.name,
        sources: line.sources.map((s) => at(s.name)),
        line,
        run: line.start([line.stages.length]),
      };
    });
  const columns: CsvColumn[] = [
    ...recording.columns.map((c) => ({ ...c, raw: true })),
    ...channels.map((c) => ({ name: c.name, unit: c.line.outputs[0]!.unit, raw: false })),
  ];
  out.write(`${csvHeader(columns)}\r\n`);
  for await (const samples of readSamples(knex, recording)) {
    const length = samples.times.length;
    const converted = channels.map(({ line, run, sources }) => {
      const values = new Float64Array(length).fill(Number.NaN);
      let row = 0;
      const lanes = sources.map((i) => ({ values: samples.columns[i]!, reasons: new Uint8Array(length) }));
      run.process({ length, times: samples.times, lanes }, (blocks) => {
        const block = blocks[line.stages.length]!;
        // A line may give fewer readings than it takes: each stands in the row of its own instant.
        for (let i = 0; i < block.length; i++) {
          while (row < length && samples.times[row]! < block.times[i]!) row++;
          if (row < length) values[row++] = block.lanes[0]!.values[i]!;
        }
      });
      return values;
    });
    let text = '';
    for (let i = 0; i < length; i++) {
      // Twelve significant digits: more than any reading is worth, few enough to read.
      const readings = converted.map((v) => Number(v[i]!.toPrecision(12)));
      text += `${csvRow(samples.times[i]!, [...samples.columns.map((c) => c[i]!), ...readings])}\r\n`;
    }
    if (!out.write(text)) await once(out, 'drain');
  }
  out.end();
}
