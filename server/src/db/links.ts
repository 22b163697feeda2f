import type { Knex } from 'knex';
import type { WorldTruth } from '@lucky-needle/core/simulate';

export interface StoredLink {
  readonly id: string;
  readonly gadgetId: string;
  readonly kind: 'simulated';
  readonly name: string;
  readonly truth: WorldTruth;
  readonly speed: number;
}

interface LinkRow {
  id: string;
  gadget_id: string;
  kind: string;
  name: string;
  truth: string;
  speed: number;
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
      return rows.map(fromRow);
    },
    async ofGadget(gadgetId: string): Promise<StoredLink | null> {
      const row = await table().where({ gadget_id: gadgetId }).first();
      return row ? fromRow(row) : null;
    },
    async insert(link: StoredLink): Promise<void> {
      await table().insert({
        id: link.id,
        gadget_id: link.gadgetId,
        kind: link.kind,
        name: link.name,
        truth: JSON.stringify(link.truth),
        speed: link.speed,
      });
    },
    async setSpeed(id: string, speed: number): Promise<void> {
      await table().where({ id }).update({ speed });
    },
  };
}

function fromRow(row: LinkRow): StoredLink {
  return {
    id: row.id,
    gadgetId: row.gadget_id,
    kind: 'simulated',
    name: row.name,
    truth: JSON.parse(row.truth),
    speed: row.speed,
  };
}
