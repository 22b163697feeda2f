import type { DamagedRow } from '@lucky-needle/core/model';
import { whyDamaged, type RowKind } from '../db/rowKind.ts';
import { ROW_KINDS } from '../db/rowKinds.ts';
import { ProblemError } from '../http/problem.ts';
import type { Bench } from './bench.ts';

type Row = Record<string, unknown>;
type Kind = RowKind<Row, unknown>;

const PAGE = 500;
const MOST_TOLD = 200;
const LONGEST_WHY = 200;

/** Rows that cannot be answered: shown beside the sound ones, taken out as they are, deleted. */
export function damagedService(bench: Bench) {
  const { knex } = bench;

  async function* rowsOf({ table }: Kind): AsyncGenerator<Row> {
    for (let from = 0; ; from += PAGE) {
      const rows = (await knex(table).orderBy('rowid').limit(PAGE).offset(from)) as Row[];
      yield* rows;
      if (rows.length < PAGE) return;
      // A long logbook keeps nobody waiting.
      await new Promise((done) => setImmediate(done));
    }
  }

  async function find(table: string, id: string): Promise<{ kind: Kind; row: Row; why: string }> {
    const kind = ROW_KINDS.find((k) => k.table === table);
    const row = kind && ((await knex(table).where({ id }).first()) as Row | undefined);
    const why = row && whyDamaged(kind, row);
    if (!why)
      throw new ProblemError(
        404,
        'not-damaged',
        'Not found',
        'This row is not damaged, or it no longer exists.',
        'It may have been deleted or repaired. Reload the page.',
      );
    return { kind, row, why };
  }

  return {
    async list(): Promise<DamagedRow[]> {
      const found: DamagedRow[] = [];
      for (const kind of ROW_KINDS)
        for await (const row of rowsOf(kind)) {
          const why = whyDamaged(kind, row);
          if (why !== null) found.push(told(kind, row, why));
          if (found.length >= MOST_TOLD) return found;
        }
      return found;
    },

    /** The row as it is stored. */
    async find(table: string, id: string): Promise<Row> {
      return (await find(table, id)).row;
    },

    async remove(table: string, id: string): Promise<void> {
      const { kind, row } = await find(table, id);
      const { name, gadgetId } = told(kind, row, '');
      if (table === 'gadgets') bench.links.stop(id);
      await knex(table).where({ id }).delete();
      const gadget = table === 'gadgets' ? null : gadgetId;
      await bench.tables.logbook.write(gadget, 'runs', `Deleted damaged ${kind.what} "${name}".`);
      bench.changedForAll('damaged');
    },
  };
}

function told(kind: Kind, row: Row, why: string): DamagedRow {
  const text = (value: unknown) => (typeof value === 'string' ? value : null);
  return {
    table: kind.table,
    id: String(row['id']),
    what: kind.what,
    gadgetId: kind.table === 'gadgets' ? String(row['id']) : text(row['gadget_id']),
    name: (text(row['name']) ?? String(row['id'])).slice(0, 80),
    why: why.slice(0, LONGEST_WHY),
  };
}
