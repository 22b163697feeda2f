import { NewOwnReference, OwnReference } from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';
import { ifMatch, listOf } from './paging.ts';

export function ownReferenceRoutes({ ownReferences }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/references',
      summary: 'References of the maker’s own, oldest first',
      answer: listOf(OwnReference),
      async handle() {
        const items = await ownReferences.list();
        return { items, total: items.length };
      },
    },
    {
      method: 'post',
      path: '/api/references',
      summary: 'Put a reference of one’s own on the shelf',
      body: NewOwnReference,
      answer: OwnReference,
      status: 201,
      handle: (request) => ownReferences.add(request.body as NewOwnReference),
    },
    {
      method: 'put',
      path: '/api/references/:id',
      summary: 'Change a reference, or note a new check; If-Match carries the version that was edited',
      body: NewOwnReference,
      answer: OwnReference,
      handle: (request) =>
        ownReferences.replace(request.params['id']!, ifMatch(request), request.body as NewOwnReference),
    },
    {
      method: 'delete',
      path: '/api/references/:id',
      summary: 'Take a reference off the shelf; it can be restored',
      handle: (request) => ownReferences.remove(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/references/:id/restore',
      summary: 'Restore it to the shelf',
      answer: OwnReference,
      handle: (request) => ownReferences.restore(request.params['id']!),
    },
  ];
}
