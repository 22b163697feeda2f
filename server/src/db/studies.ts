import type { Knex } from 'knex';
import { Study } from '@lucky-needle/core/model';
import { readRow, soundOf, type RowKind } from './rowKind.ts';

interface StudyRecord {
  id: string;
  gadget_id: string;
  version: number;
  kind: string;
  channel_id: string;
  figure_id: string | null;
  title: string;
  done_by: string;
  place: string;
  settings: string;
  evidence: string;
  stretches: string;
  created_at: string;
  updated_at: string;
  deleted_at: string | null;
}

export function studiesTable(knex: Knex) {
  const table = () => knex<StudyRecord>('studies');
  return {
    async list(gadgetId: string): Promise<Study[]> {
      const rows = await table()
        .where({ gadget_id: gadgetId })
        .whereNull('deleted_at')
        .orderBy('created_at')
        .orderBy('id');
      return soundOf(STUDY_ROWS, rows);
    },
    async find(id: string): Promise<Study | null> {
      const row = await table().where({ id }).whereNull('deleted_at').first();
      return row ? readRow(STUDY_ROWS, row) : null;
    },
    async insert(study: Study): Promise<void> {
      await table().insert({ ...toRow(study), deleted_at: null });
    },
    /** Writes the next version; false when another writer came first. */
    async update(study: Study, version: number): Promise<boolean> {
      const { id, ...row } = toRow(study);
      return (await table().where({ id, version }).whereNull('deleted_at').update(row)) === 1;
    },
    async setDeleted(id: string, at: string | null): Promise<boolean> {
      return (await table().where({ id }).update({ deleted_at: at })) === 1;
    },
  };
}

const toRow = (study: Study): Omit<StudyRecord, 'deleted_at'> => ({
  id: study.id,
  gadget_id: study.gadgetId,
  version: study.version,
  kind: study.kind,
  channel_id: study.channelId,
  figure_id: study.figureId,
  title: study.title,
  done_by: study.by,
  place: study.place,
  settings: JSON.stringify(study.settings),
  evidence: JSON.stringify(study.rows),
  stretches: JSON.stringify(study.stretches),
  created_at: study.createdAt,
  updated_at: study.updatedAt,
});

export const STUDY_ROWS: RowKind<StudyRecord, Study> = {
  table: 'studies',
  what: 'study',
  schema: Study,
  fromRow: (row) => ({
    id: row.id,
    gadgetId: row.gadget_id,
    version: row.version,
    kind: row.kind,
    channelId: row.channel_id,
    figureId: row.figure_id,
    title: row.title,
    by: row.done_by,
    place: row.place,
    settings: JSON.parse(row.settings),
    rows: JSON.parse(row.evidence),
    stretches: JSON.parse(row.stretches),
    createdAt: row.created_at,
    updatedAt: row.updated_at,
  }),
};
