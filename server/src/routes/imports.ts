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
      summary: 'Upload a file for preview, as the request body; ?name= gives its name. Nothing is stored yet',
      answer: UploadFor,
      status: 201,
      handle: (request) =>
        imports.receive(request.params['id']!, nameOf(request.query['name'], 'file'), request),
    },
    {
      method: 'delete',
      path: '/api/uploads/:id',
      summary: 'Discard an upload',
      handle: (request) => imports.discard(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/uploads/:id/import',
      summary: 'Import columns of an upload as a run; returns a job',
      body: ImportBody,
      answer: Job,
      status: 202,
      handle: (request) => imports.run(request.params['id']!, request.body as ImportBody),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/recordings/import',
      summary:
        'Upload and import a file in one request, matching columns by name; ?name= gives the name of the run',
      answer: Recording,
      status: 201,
      handle: (request) =>
        imports.importFile(request.params['id']!, nameOf(request.query['name'], 'Imported file'), request),
    },
    {
      method: 'get',
      path: '/api/jobs/:id',
      summary: 'Progress of a job',
      answer: Job,
      handle: async (request) => jobs.find(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/jobs/:id/cancel',
      summary: 'Cancel a job; anything it stored is deleted',
      answer: Job,
      handle: async (request) => jobs.cancel(request.params['id']!),
    },
  ];
}
