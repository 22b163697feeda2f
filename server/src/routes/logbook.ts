import { LogEntry, NewNote } from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Bench } from '../services/bench.ts';
import type { Services } from '../services/services.ts';
import { listOf, pageOf } from './paging.ts';

export function logbookRoutes(bench: Bench, { gadgets }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/gadgets/:id/logbook',
      summary: 'Logbook entries, newest first',
      answer: listOf(LogEntry),
      async handle(request) {
        const id = request.params['id']!;
        await gadgets.find(id);
        const { limit, offset } = pageOf(request);
        return {
          items: await bench.tables.logbook.list(id, limit, offset),
          total: await bench.tables.logbook.count(id),
        };
      },
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/logbook',
      summary: 'Add a note',
      body: NewNote,
      answer: LogEntry,
      status: 201,
      async handle(request) {
        const id = request.params['id']!;
        await gadgets.find(id);
        const entry = await bench.tables.logbook.write(id, 'note', (request.body as NewNote).text);
        bench.changed(id, 'logbook');
        return entry;
      },
    },
  ];
}
