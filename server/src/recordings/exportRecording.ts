import { once } from 'node:events';
import type { Writable } from 'node:stream';
import {
  csvHeader,
  csvRow,
  delimitedWriter,
  ndjsonRow,
  nmeaFix,
  FIX_COLUMNS,
  wavHeader,
  wavSamples,
  writeDataPackage,
  writeGpx,
  writeSenml,
  type TableColumn,
} from '@lucky-needle/core/formats';
import type { Gadget, Recording } from '@lucky-needle/core/model';
import { ProblemError } from '../http/problem.ts';
import type { ConvertedRecording } from './convertedBlocks.ts';
import type { Samples } from './sampleStore.ts';

export const EXPORT_FORMATS = [
  'csv',
  'tsv',
  'ndjson',
  'senml',
  'nmea',
  'gpx',
  'wav',
  'package',
  'meta',
] as const;
export type ExportFormat = (typeof EXPORT_FORMATS)[number];

/** Ending and kind of each format's file. */
export const EXPORT_FILES: Readonly<Record<ExportFormat, readonly [ending: string, media: string]>> = {
  csv: ['csv', 'text/csv; charset=utf-8'],
  tsv: ['tsv', 'text/tab-separated-values; charset=utf-8'],
  ndjson: ['ndjson', 'application/x-ndjson'],
  senml: ['senml.json', 'application/senml+json'],
  nmea: ['nmea', 'text/plain; charset=us-ascii'],
  gpx: ['gpx', 'application/gpx+xml'],
  wav: ['wav', 'audio/wav'],
  package: ['zip', 'application/zip'],
  meta: ['json', 'application/json'],
};

/** Formats that are made whole before they are sent. */
const MOST_WHOLE = 2_000_000;

export interface ExportSource {
  readonly recording: Recording;
  readonly gadget: Gadget;
  readonly converted: ConvertedRecording;
}

/**
 * Checks that a format can hold the recording.
 * @throws {ProblemError} with what is missing and another way
 */
export function checkExport(format: ExportFormat, { recording, converted }: ExportSource): void {
  const refuse = (detail: string, wayOut: string) =>
    new ProblemError(422, 'cannot-export', 'Cannot be written so', detail, wayOut, 'format');
  if ((format === 'gpx' || format === 'nmea') && fixColumns(converted) === null)
    throw refuse(
      'A track needs the columns latitude and longitude, and this recording has none.',
      'Choose a table.',
    );
  if ((format === 'gpx' || format === 'package') && recording.sampleCount > MOST_WHOLE)
    throw refuse(
      `This format is made whole, and ${recording.sampleCount} readings are more than ${MOST_WHOLE}.`,
      'Trim the run, or choose CSV.',
    );
  if (format === 'wav' && recording.sampleRateHz < 1)
    throw refuse('A sound file needs at least one reading a second.', 'Choose a table.');
}

/** Streams a recording in a format. */
export async function exportRecording(
  format: ExportFormat,
  source: ExportSource,
  out: Writable,
): Promise<void> {
  const { recording, gadget, converted } = source;
  const put = async (piece: string | Uint8Array) => {
    if (!out.write(piece)) await once(out, 'drain');
  };
  const table: TableColumn[] = converted.columns.map((c) => ({
    name: c.raw ? `${c.name} raw` : c.name,
    unit: c.unit,
  }));
  switch (format) {
    case 'csv':
      await put(`${csvHeader(converted.columns)}\r\n`);
      await eachRow(converted, put, (t, v) => `${csvRow(t, v)}\r\n`);
      break;
    case 'tsv': {
      const writer = delimitedWriter(table, { delimiter: '\t', decimal: ',' });
      await put(`${writer.heading()}\r\n`);
      await eachRow(converted, put, (t, v) => `${writer.row(t, v)}\r\n`);
      break;
    }
    case 'ndjson':
      await eachRow(converted, put, (t, v) => `${ndjsonRow(table, t, v)}\n`);
      break;
    case 'senml': {
      let first = true;
      await put('[');
      for await (const block of converted.blocks()) {
        const rows = rowsOf(block);
        // Each piece carries its own base name and time, which hold until the next.
        const pack = writeSenml(`urn:dev:ow:${recording.id}:`, table, rows).trim().slice(1, -1);
        await put(first ? pack : `,${pack}`);
        first = false;
      }
      await put(']');
      break;
    }
    case 'nmea': {
      const at = fixColumns(converted)!;
      await eachRow(converted, put, (t, v) =>
        nmeaFix(
          t,
          at.map((i) => (i < 0 ? Number.NaN : v[i]!)),
        ),
      );
      break;
    }
    case 'gpx': {
      const [lat, lon, , , altitude] = fixColumns(converted)!;
      const rows = await wholeRows(converted);
      await put(
        writeGpx(
          recording.name,
          rows.map(({ timeS, values }) => ({
            timeS,
            values: [lat!, lon!, altitude!].map((i) => (i < 0 ? Number.NaN : values[i]!)),
          })),
        ),
      );
      break;
    }
    case 'wav': {
      const count = recording.columns.length;
      await put(wavHeader(recording.sampleCount, count, Math.round(recording.sampleRateHz)));
      for await (const block of converted.blocks()) await put(wavSamples(block.columns.slice(0, count)));
      break;
    }
    case 'package':
      await put(
        writeDataPackage({
          name: recording.name,
          title: `${gadget.name}: ${recording.name}`,
          columns: table,
          rows: await wholeRows(converted),
          facts: factsOf(source),
        }),
      );
      break;
    case 'meta':
      await put(JSON.stringify(factsOf(source), null, 2));
  }
  out.end();
}

/** What a reader of the file must know: gadget, run, and by which line and calibration each reading was made. */
const factsOf = ({ recording, gadget, converted }: ExportSource) => ({
  gadget: gadget.name,
  place: gadget.place,
  recording: recording.name,
  startedAt: recording.startedAt,
  sampleRateHz: recording.sampleRateHz,
  markers: recording.markers.map(({ timeS, text }) => ({ timeS, text })),
  readings: converted.made,
});

async function eachRow(
  converted: ConvertedRecording,
  put: (piece: string) => Promise<void>,
  row: (timeS: number, values: number[]) => string,
): Promise<void> {
  const raw = converted.columns.filter((c) => c.raw).length;
  for await (const { times, columns } of converted.blocks()) {
    let text = '';
    for (let i = 0; i < times.length; i++)
      text += row(
        times[i]!,
        // Readings with twelve significant digits: more than any is worth, few enough to read.
        columns.map((c, k) => (k < raw ? c[i]! : Number(c[i]!.toPrecision(12)))),
      );
    await put(text);
  }
}

const rowsOf = ({ times, columns }: Samples) =>
  Array.from(times, (timeS, i) => ({ timeS, values: columns.map((c) => c[i]!) }));

async function wholeRows(converted: ConvertedRecording) {
  const all: ReturnType<typeof rowsOf> = [];
  for await (const block of converted.blocks()) for (const row of rowsOf(block)) all.push(row);
  return all;
}

/** Where the columns of a fix stand, -1 for those that are not there; null without a position. */
function fixColumns({ columns }: ConvertedRecording): number[] | null {
  const at = FIX_COLUMNS.map(({ name }) => columns.findIndex((c) => c.name.toLowerCase() === name));
  return at[0]! < 0 || at[1]! < 0 ? null : at;
}
