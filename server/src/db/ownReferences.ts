import type { Knex } from 'knex';
import { type NewOwnReference, OwnReference } from '@lucky-needle/core/model';
import { readRow, soundOf, type RowKind } from './rowKind.ts';

interface ReferenceRow {
  id: string;
  reference: string;
  version: number;
  deleted_at: string | null;
}

/** The maker's own references. */
export function ownReferencesTable(knex: Knex) {
  const table = () => knex<ReferenceRow>('own_references');
  return {
    async list(): Promise<OwnReference[]> {
      const rows = await table().whereNull('deleted_at').orderBy('created_at').orderBy('id');
      return soundOf(REFERENCE_ROWS, rows);
    },
    async find(id: string): Promise<OwnReference | null> {
      const row = await table().where({ id }).whereNull('deleted_at').first();
      return row ? readRow(REFERENCE_ROWS, row) : null;
    },
    async insert(id: string, reference: NewOwnReference, now: string): Promise<void> {
      await knex('own_references').insert({
        id,
        reference: JSON.stringify(reference),
        version: 1,
        created_at: now,
        deleted_at: null,
      });
    },
    /** Writes the next version; false when another writer came first. */
    async update(id: string, reference: NewOwnReference, version: number): Promise<boolean> {
      const change = { reference: JSON.stringify(reference), version: version + 1 };
      return (await table().where({ id, version }).whereNull('deleted_at').update(change)) === 1;
    },
    async setDeleted(id: string, at: string | null): Promise<boolean> {
      return (await table().where({ id }).update({ deleted_at: at })) === 1;
    },
  };
}

const fromRow = (row: ReferenceRow): OwnReference => ({
  id: row.id,
  version: row.version,
  ...(JSON.parse(row.reference) as NewOwnReference),
});

export const REFERENCE_ROWS: RowKind<ReferenceRow, OwnReference> = {
  table: 'own_references',
  what: 'reference',
  schema: OwnReference,
  fromRow,
};
