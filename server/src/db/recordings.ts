import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import { Recording, type Marker } from '@lucky-needle/core/model';
import { readRow, soundOf, type RowKind } from './rowKind.ts';

interface RecordingRow {
  id: string;
  gadget_id: string;
  name: string;
  state: Recording['state'];
  started_at: string;
  ended_at: string | null;
  columns: string;
  sample_rate_hz: number;
  sample_count: number;
  first_time_s: number | null;
  last_time_s: number | null;
  lost_readings: number;
  issues: string;
  note: string;
  versions: string;
  excluded: string | null;
  pieces: string;
  markers: string;
  source_checksum: string | null;
  deleted_at: string | null;
}

/** Marks that a recording keeps. */
const MOST_MARKERS = 500;

export function recordingsTable(knex: Knex) {
  const table = () => knex<RecordingRow>('recordings');
  return {
    async list(gadgetId: string, limit: number, offset: number): Promise<Recording[]> {
      const rows = await table()
        .where({ gadget_id: gadgetId })
        .whereNull('deleted_at')
        .orderBy([{ column: 'started_at', order: 'desc' }, 'id'])
        .limit(limit)
        .offset(offset);
      return soundOf(RECORDING_ROWS, rows);
    },
    async count(gadgetId: string): Promise<number> {
      return Number(
        (await table().where({ gadget_id: gadgetId }).whereNull('deleted_at').count({ n: '*' }))[0]!['n'],
      );
    },
    async find(id: string): Promise<Recording | null> {
      const row = await table().where({ id }).whereNull('deleted_at').first();
      return row ? readRow(RECORDING_ROWS, row) : null;
    },
    async unfinished(): Promise<Recording[]> {
      return soundOf(RECORDING_ROWS, await table().where({ state: 'recording' }));
    },
    async insert(recording: Recording): Promise<void> {
      await table().insert(toRow(recording));
    },
    async update(recording: Recording): Promise<void> {
      const { id, ...row } = toRow(recording);
      await table().where({ id }).update(row);
    },
    /** Those of a gadget that came from a file with this checksum. */
    async ofSource(gadgetId: string, checksum: string): Promise<Recording[]> {
      const rows = await table()
        .where({ gadget_id: gadgetId, source_checksum: checksum })
        .whereNull('deleted_at');
      return soundOf(RECORDING_ROWS, rows);
    },
    async setMarkers(id: string, markers: Recording['markers']): Promise<void> {
      await table()
        .where({ id })
        .update({ markers: JSON.stringify(markers) });
    },
    /** Marks a moment; of more than a recording keeps, the last are let go. @returns its marks now, in the order of time */
    async addMarker(id: string, marker: Omit<Marker, 'id'>): Promise<Recording['markers']> {
      return knex.transaction(async (trx) => {
        const row = await trx<RecordingRow>('recordings').where({ id }).first('markers');
        const all = [
          ...(JSON.parse(row?.markers ?? '[]') as Recording['markers']),
          { id: randomUUID(), ...marker },
        ]
          .toSorted((a, b) => a.timeS - b.timeS)
          .slice(0, MOST_MARKERS);
        await trx<RecordingRow>('recordings')
          .where({ id })
          .update({ markers: JSON.stringify(all) });
        return all;
      });
    },
    /** @returns whether there is such a recording whose state this changes */
    async setDeleted(id: string, at: string | null): Promise<boolean> {
      const query = table().where({ id });
      if (at === null) query.whereNotNull('deleted_at');
      else query.whereNull('deleted_at');
      return (await query.update({ deleted_at: at })) > 0;
    },
    /** Removes for good what was deleted before a moment, unless another recording is made of it. */
    async purge(before: string): Promise<number> {
      const used = new Set(
        (await table().whereNot({ pieces: 'null' }).select('id', 'pieces')).flatMap((r) =>
          (JSON.parse(r.pieces) as { of: string }[]).filter((p) => p.of !== r.id).map((p) => p.of),
        ),
      );
      const old = (await table().where('deleted_at', '<', before).select('id')).map((r) => r.id);
      const free = old.filter((id) => !used.has(id));
      for (const id of free) await table().where({ id }).delete();
      return free.length;
    },
    async remove(id: string): Promise<void> {
      await table().where({ id }).delete();
    },
  };
}

function fromRow(row: RecordingRow): Recording {
  return {
    id: row.id,
    gadgetId: row.gadget_id,
    name: row.name,
    state: row.state,
    startedAt: row.started_at,
    endedAt: row.ended_at,
    columns: JSON.parse(row.columns),
    sampleRateHz: row.sample_rate_hz,
    sampleCount: row.sample_count,
    firstTimeS: row.first_time_s,
    lastTimeS: row.last_time_s,
    lostReadings: row.lost_readings,
    issues: JSON.parse(row.issues),
    note: row.note,
    versions: JSON.parse(row.versions),
    excluded: row.excluded,
    pieces: JSON.parse(row.pieces),
    markers: JSON.parse(row.markers),
    sourceChecksum: row.source_checksum,
  };
}

function toRow(recording: Recording): Omit<RecordingRow, 'deleted_at'> {
  return {
    id: recording.id,
    gadget_id: recording.gadgetId,
    name: recording.name,
    state: recording.state,
    started_at: recording.startedAt,
    ended_at: recording.endedAt,
    columns: JSON.stringify(recording.columns),
    sample_rate_hz: recording.sampleRateHz,
    sample_count: recording.sampleCount,
    first_time_s: recording.firstTimeS,
    last_time_s: recording.lastTimeS,
    lost_readings: recording.lostReadings,
    issues: JSON.stringify(recording.issues),
    note: recording.note,
    versions: JSON.stringify(recording.versions),
    excluded: recording.excluded,
    pieces: JSON.stringify(recording.pieces),
    markers: JSON.stringify(recording.markers),
    source_checksum: recording.sourceChecksum,
  };
}

export const RECORDING_ROWS: RowKind<RecordingRow, Recording> = {
  table: 'recordings',
  what: 'recording',
  schema: Recording,
  fromRow,
};
