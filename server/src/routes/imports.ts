import { ImportBody, Job, Recording, UploadFor } from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';

const nameOf = (query: unknown, otherwise: string): string =>
  (typeof query === 'string' ? query.slice(0, 80) : '') || otherwise;

export function importRoutes({ imports, jobs }: Services): Route[] {
  return [
    {
      method: 'post',
      path: '/api/gadgets/:id/uploads',
      summary: 'Send a file to look at, as the body; ?name= names it. Nothing is stored yet',
      answer: UploadFor,
      status: 201,
      handle: (request) =>
        imports.receive(request.params['id']!, nameOf(request.query['name'], 'file'), request),
    },
    {
      method: 'delete',
      path: '/api/uploads/:id',
      summary: 'Forget an upload',
      handle: (request) => imports.discard(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/uploads/:id/import',
      summary: 'Store columns of an upload as a recording: a job',
      body: ImportBody,
      answer: Job,
      status: 202,
      handle: (request) => imports.run(request.params['id']!, request.body as ImportBody),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/recordings/import',
      summary:
        'Import a file in one request, sent as the body, by the names of its columns; ?name= names the run',
      answer: Recording,
      status: 201,
      handle: (request) =>
        imports.importFile(request.params['id']!, nameOf(request.query['name'], 'Imported file'), request),
    },
    {
      method: 'get',
      path: '/api/jobs/:id',
      summary: 'How far a job is',
      answer: Job,
      handle: async (request) => jobs.find(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/jobs/:id/cancel',
      summary: 'End a job; what it has stored is taken away again',
      answer: Job,
      handle: async (request) => jobs.cancel(request.params['id']!),
    },
  ];
}
