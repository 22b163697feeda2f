import { Gadget, GadgetPatch, NewGadget } from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Bench } from '../services/bench.ts';
import { loadDemoMill } from '../services/mill.ts';
import type { Services } from '../services/services.ts';
import { ifMatch, listOf, pageOf } from './paging.ts';

export function gadgetRoutes(bench: Bench, services: Services): Route[] {
  const { gadgets } = services;
  return [
    {
      method: 'get',
      path: '/api/gadgets',
      summary: 'All gadgets, oldest first',
      answer: listOf(Gadget),
      async handle(request) {
        const { limit, offset } = pageOf(request);
        return {
          items: await bench.tables.gadgets.list(limit, offset),
          total: await bench.tables.gadgets.count(),
        };
      },
    },
    {
      method: 'post',
      path: '/api/gadgets',
      summary: 'Create a gadget from a template',
      body: NewGadget,
      answer: Gadget,
      status: 201,
      handle: (request) => gadgets.create(request.body as NewGadget),
    },
    {
      method: 'post',
      path: '/api/mill',
      summary: 'Load the Quillmere Mill demo into this workspace',
      answer: Gadget,
      status: 201,
      handle: () => loadDemoMill(bench, services),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id',
      summary: 'One gadget',
      answer: Gadget,
      handle: (request) => gadgets.find(request.params['id']!),
    },
    {
      method: 'patch',
      path: '/api/gadgets/:id',
      summary: 'Replace sections of a gadget; send the version you edited in If-Match',
      body: GadgetPatch,
      answer: Gadget,
      handle: (request) =>
        gadgets.patch(request.params['id']!, ifMatch(request), request.body as GadgetPatch),
    },
    {
      method: 'delete',
      path: '/api/gadgets/:id',
      summary: 'Delete a gadget; it can be restored',
      handle: (request) => gadgets.remove(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/restore',
      summary: 'Restore a deleted gadget',
      answer: Gadget,
      handle: (request) => gadgets.restore(request.params['id']!),
    },
  ];
}
