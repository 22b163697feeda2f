import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import { LogEntry } from '@lucky-needle/core/model';
import { soundOf, type RowKind } from './rowKind.ts';

interface LogRow {
  id: string;
  gadget_id: string | null;
  at: string;
  step: LogEntry['step'];
  text: string;
}

export function logbookTable(knex: Knex) {
  const table = () => knex<LogRow>('logbook');
  return {
    async list(gadgetId: string, limit: number, offset: number): Promise<LogEntry[]> {
      const rows = await table()
        .where({ gadget_id: gadgetId })
        .orderBy([
          { column: 'at', order: 'desc' },
          { column: 'rowid', order: 'desc' },
        ])
        .limit(limit)
        .offset(offset);
      return soundOf(LOG_ROWS, rows);
    },
    async count(gadgetId: string): Promise<number> {
      return Number((await table().where({ gadget_id: gadgetId }).count({ n: '*' }))[0]!['n']);
    },
    async write(
      gadgetId: string | null,
      step: LogEntry['step'],
      text: string,
      at = new Date().toISOString(),
    ): Promise<LogEntry> {
      const entry = { id: randomUUID(), gadgetId, at, step, text };
      await table().insert({ id: entry.id, gadget_id: gadgetId, at, step, text });
      return entry;
    },
  };
}

export const LOG_ROWS: RowKind<LogRow, LogEntry> = {
  table: 'logbook',
  what: 'logbook entry',
  schema: LogEntry,
  fromRow: (row) => ({ id: row.id, gadgetId: row.gadget_id, at: row.at, step: row.step, text: row.text }),
};
