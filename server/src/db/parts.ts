import type { Knex } from 'knex';
import { OwnPart, type Part } from '@lucky-needle/core/model';
import { readRow, soundOf, type RowKind } from './rowKind.ts';

interface PartRow {
  id: string;
  part: string;
  version: number;
  created_at: string;
  updated_at: string;
  deleted_at: string | null;
}

/** The maker's own parts; the bench's shelf lies in core. */
export function partsTable(knex: Knex) {
  const table = () => knex<PartRow>('parts');
  const present = () => table().whereNull('deleted_at');
  return {
    async list(): Promise<OwnPart[]> {
      return soundOf(PART_ROWS, await present().orderBy('created_at').orderBy('id'));
    },
    async find(id: string): Promise<OwnPart | null> {
      const row = await present().where({ id }).first();
      return row ? readRow(PART_ROWS, row) : null;
    },
    /** Inserts, or takes the place of a deleted part of the same id. False when the id is in use. */
    async insert(part: Part, now: string): Promise<boolean> {
      if (await present().where({ id: part.id }).first()) return false;
      await table().where({ id: part.id }).delete();
      await table().insert({
        id: part.id,
        part: JSON.stringify(part),
        version: 1,
        created_at: now,
        updated_at: now,
        deleted_at: null,
      });
      return true;
    },
    /** Writes the next version; false when another writer came first. */
    async update(part: Part, version: number, now: string): Promise<boolean> {
      const change = { part: JSON.stringify(part), version: version + 1, updated_at: now };
      return (await present().where({ id: part.id, version }).update(change)) === 1;
    },
    async setDeleted(id: string, at: string | null): Promise<boolean> {
      return (await table().where({ id }).update({ deleted_at: at })) === 1;
    },
  };
}

const fromRow = (row: PartRow): OwnPart => ({ part: JSON.parse(row.part) as Part, version: row.version });

export const PART_ROWS: RowKind<PartRow, OwnPart> = {
  table: 'parts',
  what: 'part',
  schema: OwnPart,
  fromRow,
};
