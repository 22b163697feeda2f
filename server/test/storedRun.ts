import type { LineSpec, Recording } from '@lucky-needle/core/model';
import { openDatabase } from '../src/db/open.ts';
import { tables } from '../src/db/tables.ts';
import { ChunkWriter } from '../src/recordings/chunkWriter.ts';
import { freshFolder } from './bench.ts';

/** Rows a commit: chunks are begun in one and filled up in the next. */
const COMMITTED = 30_011;

/** A stage of a line, which has no other of its kind. */
export const stageOf = (kind: string, params: LineSpec['stages'][number]['params']) => ({
  id: kind,
  kind,
  params,
  uncertainty: {},
  off: false,
});

/** A run of made-up columns in a database of its own. */
export async function storedRun(
  columns: Readonly<Record<string, Float64Array>>,
  times: Float64Array,
  sampleRateHz: number,
  change: Partial<Recording> = {},
) {
  const database = await openDatabase(freshFolder());
  const repositories = tables(database.knex);
  await database.knex('gadgets').insert({
    id: 'g',
    template: 'empty',
    name: 'G',
    version: 1,
    created_at: '',
    updated_at: '',
    place: '{}',
    channels: '[]',
    sample_rate_hz: sampleRateHz,
  });
  const recording: Recording = {
    id: 'r',
    gadgetId: 'g',
    name: 'R',
    state: 'closed',
    startedAt: '2026-01-01T00:00:00Z',
    endedAt: null,
    columns: Object.keys(columns).map((name) => ({ name, unit: 'count' })),
    sampleRateHz,
    sampleCount: times.length,
    firstTimeS: times[0] ?? null,
    lastTimeS: times.at(-1) ?? null,
    lostReadings: 0,
    issues: [],
    note: '',
    versions: {},
    excluded: null,
    pieces: null,
    markers: [],
    sourceChecksum: null,
    ...change,
  };
  await repositories.recordings.insert(recording);
  const writer = new ChunkWriter(database.knex, 'r', recording.columns.length);
  for (let from = 0; from < times.length; from += COMMITTED) {
    const part = (column: Float64Array) => column.subarray(from, from + COMMITTED);
    const piece = { times: part(times), columns: Object.values(columns).map(part) };
    writer.appendAll(piece, piece.times.length);
    await writer.commit();
  }
  return { database, knex: database.knex, recording, writer };
}
