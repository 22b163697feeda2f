import type { Knex } from 'knex';
import { LineMapping, LinkSettings } from '@lucky-needle/core/model';
import type { WorldTruth } from '@lucky-needle/core/simulate';
import { Type } from 'typebox';
import { readRow, whyDamaged, type RowKind } from './rowKind.ts';

export interface StoredLink {
  readonly id: string;
  readonly gadgetId: string;
  readonly name: string;
  readonly settings: LinkSettings;
  /** As the maker set it; null where the lines tell. */
  readonly mapping: LineMapping | null;
  /** Hidden constants of a simulated gadget; null for others. */
  readonly truth: WorldTruth | null;
  readonly speed: number;
  /** SHA-256 of a push link's token; the token itself is nowhere. */
  readonly tokenHash: string | null;
}

interface LinkRow {
  id: string;
  gadget_id: string;
  kind: string;
  name: string;
  truth: string;
  speed: number;
  settings: string;
  mapping: string;
  token_hash: string | null;
}

export function linksTable(knex: Knex) {
  const table = () => knex<LinkRow>('links');
  return {
    /** Links of gadgets that are not deleted. */
    async list(): Promise<StoredLink[]> {
      const rows = await table()
        .join('gadgets', 'gadgets.id', 'links.gadget_id')
        .whereNull('gadgets.deleted_at')
        .select('links.*');
      return rows.flatMap((row) => {
        const why = whyDamaged(LINK_ROWS, row);
        if (why === null) return [fromRow(row)];
        // A row that was damaged must not hide the others.
        console.error(`Link "${row.name}" not started: its data is damaged (${why})`);
        return [];
      });
    },
    async ofGadget(gadgetId: string): Promise<StoredLink | null> {
      const row = await table().where({ gadget_id: gadgetId }).first();
      return row ? readRow(LINK_ROWS, row) : null;
    },
    async insert(link: StoredLink): Promise<void> {
      await table().insert({
        id: link.id,
        gadget_id: link.gadgetId,
        kind: link.settings.kind,
        name: link.name,
        truth: JSON.stringify(link.truth),
        speed: link.speed,
        settings: JSON.stringify(link.settings),
        mapping: JSON.stringify(link.mapping),
        token_hash: link.tokenHash,
      });
    },
    async update(
      id: string,
      change: Partial<Pick<StoredLink, 'speed' | 'settings' | 'mapping' | 'tokenHash'>>,
    ): Promise<void> {
      const row: Partial<LinkRow> = {
        ...(change.speed === undefined ? {} : { speed: change.speed }),
        ...(change.settings === undefined ? {} : { settings: JSON.stringify(change.settings) }),
        ...(change.mapping === undefined ? {} : { mapping: JSON.stringify(change.mapping) }),
        ...(change.tokenHash === undefined ? {} : { token_hash: change.tokenHash }),
      };
      if (Object.keys(row).length > 0) await table().where({ id }).update(row);
    },
    async remove(id: string): Promise<void> {
      await table().where({ id }).delete();
    },
  };
}

function fromRow(row: LinkRow): StoredLink {
  return {
    id: row.id,
    gadgetId: row.gadget_id,
    name: row.name,
    settings: JSON.parse(row.settings),
    mapping: JSON.parse(row.mapping),
    truth: JSON.parse(row.truth),
    speed: row.speed,
    tokenHash: row.token_hash,
  };
}

export const LINK_ROWS: RowKind<LinkRow, StoredLink> = {
  table: 'links',
  what: 'link',
  schema: Type.Object({
    settings: LinkSettings,
    mapping: Type.Union([LineMapping, Type.Null()]),
    speed: Type.Number({ exclusiveMinimum: 0 }),
  }),
  fromRow,
};
