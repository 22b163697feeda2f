import type { Knex } from 'knex';
import { whyDamaged } from '../db/rowKind.ts';
import { ROW_KINDS } from '../db/rowKinds.ts';
import { counted } from '@lucky-needle/core/words';

const PAGE = 200;

/**
 * Whether every row of a workspace, deleted ones and all, is one that the API can answer, and belongs to rows that are there.
 * @param told how many rows have been looked at so far
 * @throws {Error} that names the first one that is not
 */
export async function checkRows(knex: Knex, told: (rows: number) => void = () => undefined): Promise<void> {
  const strays = (await knex.raw('PRAGMA foreign_key_check')) as { table: string; parent: string }[];
  if (strays.length > 0)
    throw new Error(
      `${counted(strays.length, 'row')}, the first in "${strays[0]!.table}", ${strays.length === 1 ? 'refers' : 'refer'} to missing rows of "${strays[0]!.parent}"`,
    );
  let seen = 0;
  for (const kind of ROW_KINDS) {
    for (let from = 0; ; from += PAGE) {
      const rows = (await knex(kind.table).orderBy('rowid').limit(PAGE).offset(from)) as Record<
        string,
        unknown
      >[];
      for (const row of rows) {
        const why = whyDamaged(kind, row);
        const name = typeof row['name'] === 'string' ? ` "${row['name'].slice(0, 60)}"` : '';
        if (why !== null) throw new Error(`${kind.what}${name} is damaged (${why.slice(0, 200)})`);
      }
      seen += rows.length;
      told(seen);
      await new Promise((done) => setImmediate(done));
      if (rows.length < PAGE) break;
    }
  }
}
