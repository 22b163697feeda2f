import { Readable, type Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import {
  csvHeader,
  csvRow,
  degreesOf,
  delimitedWriter,
  DESCRIPTOR_FILE,
  FIX_COLUMNS,
  fixColumnOf,
  gpxWriter,
  ndjsonRow,
  nmeaFix,
  PACKAGE_TABLE_FILE,
  packageDescriptor,
  wavHeader,
  wavSamples,
  writeSenml,
  type TableColumn,
} from '@lucky-needle/core/formats';
import type { Gadget, Recording } from '@lucky-needle/core/model';
import { convertUnit, UNITS, type UnitId } from '@lucky-needle/core/units';
import yazl from 'yazl';
import { ProblemError } from '../http/problem.ts';
import type { ConvertedRecording } from './convertedBlocks.ts';

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
    new ProblemError(422, 'cannot-export', 'This format cannot hold this run', detail, wayOut, 'format');
  if ((format === 'gpx' || format === 'nmea') && fixColumns(converted) === null)
    throw refuse(
      'A GPS track needs latitude and longitude columns, and this run has none.',
      'Choose a table format.',
    );
  if (format === 'wav' && recording.sampleRateHz < 1)
    throw refuse('An audio file needs at least one reading per second.', 'Choose a table format.');
}

/** Streams a recording in a format; ends with the one who reads. */
export async function exportRecording(
  format: ExportFormat,
  source: ExportSource,
  out: Writable,
): Promise<void> {
  const table: TableColumn[] = source.converted.columns.map((c) => ({
    name: c.raw ? `${c.name} raw` : c.name,
    unit: c.unit,
  }));
  if (format === 'package') return packed(source, table, out);
  await pipeline(Readable.from(piecesOf(format, source, table), { highWaterMark: 2 }), out);
}

async function* piecesOf(
  format: Exclude<ExportFormat, 'package'>,
  source: ExportSource,
  table: readonly TableColumn[],
): AsyncGenerator<string | Uint8Array> {
  const { recording, converted } = source;
  switch (format) {
    case 'csv':
      yield `${csvHeader(converted.columns)}\r\n`;
      return yield* textsOf(converted, (t, v) => `${csvRow(t, v)}\r\n`);
    case 'tsv': {
      const writer = delimitedWriter(table, { delimiter: '\t', decimal: ',' });
      yield `${writer.heading()}\r\n`;
      return yield* textsOf(converted, (t, v) => `${writer.row(t, v)}\r\n`);
    }
    case 'ndjson':
      return yield* textsOf(converted, (t, v) => `${ndjsonRow(table, t, v)}\n`);
    case 'senml': {
      let first = true;
      yield '[';
      for await (const { times, columns } of converted.blocks()) {
        const rows = Array.from(times, (timeS, i) => ({ timeS, values: columns.map((c) => c[i]!) }));
        // Each piece carries its own base name and time, which hold until the next.
        const pack = writeSenml(`urn:dev:ow:${recording.id}:`, table, rows).trim().slice(1, -1);
        yield first ? pack : `,${pack}`;
        first = false;
      }
      return yield ']';
    }
    case 'nmea': {
      const at = fixColumns(converted)!;
      return yield* textsOf(converted, (t, v) =>
        nmeaFix(
          t,
          at.map((read) => read(v)),
        ),
      );
    }
    case 'gpx': {
      const [lat, lon, , , altitude] = fixColumns(converted)!;
      const writer = gpxWriter(recording.name);
      yield writer.heading();
      yield* textsOf(converted, (t, v) =>
        writer.point(
          t,
          [lat!, lon!, altitude!].map((read) => read(v)),
        ),
      );
      return yield writer.ending();
    }
    case 'wav': {
      const count = recording.columns.length;
      yield wavHeader(recording.sampleCount, count, Math.round(recording.sampleRateHz));
      for await (const block of converted.blocks()) yield wavSamples(block.columns.slice(0, count));
      return;
    }
    case 'meta':
      yield JSON.stringify(factsOf(source), null, 2);
  }
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

/** A zip of the descriptor and the table, which is packed while it is read. */
async function packed(source: ExportSource, columns: readonly TableColumn[], out: Writable): Promise<void> {
  const { recording, gadget, converted } = source;
  const content = {
    name: recording.name,
    title: `${gadget.name}: ${recording.name}`,
    columns,
    facts: factsOf(source),
  };
  const writer = delimitedWriter(columns);
  async function* table() {
    yield `${writer.heading()}\r\n`;
    yield* textsOf(converted, (t, v) => `${writer.row(t, v)}\r\n`);
  }
  const zip = new yazl.ZipFile();
  zip.addBuffer(Buffer.from(packageDescriptor(content)), DESCRIPTOR_FILE);
  const rows = Readable.from(table(), { objectMode: false });
  // The archive says nothing of what it reads from.
  rows.on('error', (error) => (zip.outputStream as Readable).destroy(error));
  zip.addReadStream(rows, PACKAGE_TABLE_FILE);
  zip.end();
  try {
    await pipeline(zip.outputStream, out);
  } finally {
    rows.destroy();
  }
}

/** Rows as text, block by block. */
async function* textsOf(
  converted: ConvertedRecording,
  row: (timeS: number, values: number[]) => string,
): AsyncGenerator<string> {
  const raw = converted.columns.filter((c) => c.raw).length;
  for await (const { times, columns } of converted.blocks()) {
    let text = '';
    for (let i = 0; i < times.length; i++)
      text += row(
        times[i]!,
        // Readings with twelve significant digits: more than any is worth, few enough to read.
        columns.map((c, k) => (k < raw ? c[i]! : Number(c[i]!.toPrecision(12)))),
      );
    yield text;
  }
}

/** Reads each column of a fix from a row, NaN for those that are not there; null without a position. */
function fixColumns({ columns }: ConvertedRecording): ((row: ArrayLike<number>) => number)[] | null {
  const places = FIX_COLUMNS.map(({ name, unit }) =>
    columns.findIndex((c) => fixColumnOf(c.name) === name && (c.unit === 'count' || isAlike(c.unit, unit))),
  );
  if (places[0]! < 0 || places[1]! < 0) return null;
  return places.map((at, k) => {
    if (at < 0) return () => Number.NaN;
    const { unit } = columns[at]!;
    const wanted = FIX_COLUMNS[k]!.unit;
    if (k < 2) return (row) => degreesOf(row[at]!, unit);
    return unit === 'count' ? (row) => row[at]! : (row) => convertUnit(row[at]!, unit, wanted);
  });
}

const isAlike = (a: UnitId, b: UnitId) => UNITS[a].dimension === UNITS[b].dimension;
