import { NewOwnReference, OwnReference } from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';
import { ifMatch, listOf } from './paging.ts';

export function ownReferenceRoutes({ ownReferences }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/references',
      summary: 'Your own references, oldest first',
      answer: listOf(OwnReference),
      async handle() {
        const items = await ownReferences.list();
        return { items, total: items.length };
      },
    },
    {
      method: 'post',
      path: '/api/references',
      summary: 'Add your own reference to the shelf',
      body: NewOwnReference,
      answer: OwnReference,
      status: 201,
      handle: (request) => ownReferences.add(request.body as NewOwnReference),
    },
    {
      method: 'put',
      path: '/api/references/:id',
      summary: 'Change a reference or record a new check; send the version you edited in If-Match',
      body: NewOwnReference,
      answer: OwnReference,
      handle: (request) =>
        ownReferences.replace(request.params['id']!, ifMatch(request), request.body as NewOwnReference),
    },
    {
      method: 'delete',
      path: '/api/references/:id',
      summary: 'Remove a reference from the shelf; it can be restored',
      handle: (request) => ownReferences.remove(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/references/:id/restore',
      summary: 'Restore a removed reference',
      answer: OwnReference,
      handle: (request) => ownReferences.restore(request.params['id']!),
    },
  ];
}
