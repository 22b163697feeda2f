import type { Knex } from 'knex';
import type { Recording } from '@lucky-needle/core/model';

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
}

export function recordingsTable(knex: Knex) {
  const table = () => knex<RecordingRow>('recordings');
  return {
    async list(gadgetId: string, limit: number, offset: number): Promise<Recording[]> {
      const rows = await table()
        .where({ gadget_id: gadgetId })
        .orderBy([{ column: 'started_at', order: 'desc' }, 'id'])
        .limit(limit)
        .offset(offset);
      return rows.map(fromRow);
    },
    async count(gadgetId: string): Promise<number> {
      return Number((await table().where({ gadget_id: gadgetId }).count({ n: '*' }))[0]!['n']);
    },
    async find(id: string): Promise<Recording | null> {
      const row = await table().where({ id }).first();
      return row ? fromRow(row) : null;
    },
    async unfinished(): Promise<Recording[]> {
      return (await table().where({ state: 'recording' })).map(fromRow);
    },
    async insert(recording: Recording): Promise<void> {
      await table().insert(toRow(recording));
    },
    async update(recording: Recording): Promise<void> {
      const { id, ...row } = toRow(recording);
      await table().where({ id }).update(row);
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
  };
}

function toRow(recording: Recording): RecordingRow {
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
  };
}
