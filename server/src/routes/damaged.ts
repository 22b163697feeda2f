import { DamagedRow } from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';
import { listOf } from './paging.ts';

export function damagedRoutes({ damaged }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/damaged',
      summary: 'Damaged rows of the database; all other rows stay available',
      answer: listOf(DamagedRow),
      async handle() {
        const items = await damaged.list();
        return { items, total: items.length };
      },
    },
    {
      method: 'get',
      path: '/api/damaged/:table/:id',
      summary: 'Contents of a damaged row, as stored',
      media: 'application/json',
      async handle(request, response) {
        const { table, id } = request.params as { table: string; id: string };
        const row = await damaged.find(table, id);
        response.setHeader('Content-Disposition', 'attachment; filename="damaged-row.json"');
        response.json(row);
        return undefined;
      },
    },
    {
      method: 'delete',
      path: '/api/damaged/:table/:id',
      summary: 'Delete a damaged row permanently',
      handle: (request) => damaged.remove(request.params['table']!, request.params['id']!),
    },
  ];
}
