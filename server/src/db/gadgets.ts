import type { Knex } from 'knex';
import { Gadget } from '@lucky-needle/core/model';
import { readRow, soundOf, type RowKind } from './rowKind.ts';

interface GadgetRow {
  id: string;
  template: string;
  name: string;
  version: number;
  created_at: string;
  updated_at: string;
  deleted_at: string | null;
  place: string;
  brief: string | null;
  picks: string;
  hookup: string | null;
  cautions_read: string;
  channels: string;
  face: string | null;
  alarms: string | null;
  sample_rate_hz: number;
}

const parse = (text: string | null) => (text === null ? null : JSON.parse(text));
const write = (value: unknown) => (value === null ? null : JSON.stringify(value));

export function gadgetsTable(knex: Knex) {
  const table = () => knex<GadgetRow>('gadgets');
  return {
    async list(limit: number, offset: number): Promise<Gadget[]> {
      const rows = await table()
        .whereNull('deleted_at')
        .orderBy('created_at')
        .orderBy('id')
        .limit(limit)
        .offset(offset);
      return soundOf(GADGET_ROWS, rows);
    },
    async count(): Promise<number> {
      return Number((await table().whereNull('deleted_at').count({ n: '*' }))[0]!['n']);
    },
    async find(id: string): Promise<Gadget | null> {
      const row = await table().where({ id }).whereNull('deleted_at').first();
      return row ? readRow(GADGET_ROWS, row) : null;
    },
    async insert(gadget: Gadget): Promise<void> {
      await table().insert(toRow(gadget));
    },
    /** Writes the next version; false when another writer came first. */
    async update(gadget: Gadget): Promise<boolean> {
      const { id, ...row } = toRow(gadget);
      return (
        (await table()
          .where({ id, version: gadget.version - 1 })
          .update(row)) === 1
      );
    },
    /** Deleting hides; undoing shows again. Nothing is lost until the workspace is tidied. */
    async setDeleted(id: string, at: string | null): Promise<boolean> {
      return (await table().where({ id }).update({ deleted_at: at })) === 1;
    },
  };
}

function fromRow(row: GadgetRow): Gadget {
  return {
    id: row.id,
    template: row.template,
    name: row.name,
    version: row.version,
    createdAt: row.created_at,
    updatedAt: row.updated_at,
    place: parse(row.place),
    brief: parse(row.brief),
    picks: parse(row.picks),
    hookup: parse(row.hookup),
    cautionsRead: parse(row.cautions_read),
    channels: parse(row.channels),
    face: parse(row.face),
    ...(row.alarms === null ? {} : { alarms: parse(row.alarms) }),
    sampleRateHz: row.sample_rate_hz,
  };
}

function toRow(gadget: Gadget): GadgetRow {
  return {
    id: gadget.id,
    template: gadget.template,
    name: gadget.name,
    version: gadget.version,
    created_at: gadget.createdAt,
    updated_at: gadget.updatedAt,
    deleted_at: null,
    place: JSON.stringify(gadget.place),
    brief: write(gadget.brief),
    picks: JSON.stringify(gadget.picks),
    hookup: write(gadget.hookup),
    cautions_read: JSON.stringify(gadget.cautionsRead),
    channels: JSON.stringify(gadget.channels),
    face: write(gadget.face),
    alarms: write(gadget.alarms ?? null),
    sample_rate_hz: gadget.sampleRateHz,
  };
}

export const GADGET_ROWS: RowKind<GadgetRow, Gadget> = {
  table: 'gadgets',
  what: 'gadget',
  schema: Gadget,
  fromRow,
};
