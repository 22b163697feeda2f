import type { Request } from 'express';
import { OwnPart, Part, PartsImported } from '@lucky-needle/core/model';
import { ProblemError } from '../http/problem.ts';
import type { Route } from '../http/route.ts';
import type { PartsFormat } from '../services/parts.ts';
import type { Services } from '../services/services.ts';
import { ifMatch, listOf } from './paging.ts';

/** A file of parts is small; 2 MB hold several thousand. */
const MAX_FILE_BYTES = 2_000_000;

export function partRoutes({ parts }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/parts',
      summary: 'Parts of the maker’s own, oldest first; the bench’s shelf comes with the app',
      answer: listOf(OwnPart),
      async handle() {
        const items = await parts.list();
        return { items, total: items.length };
      },
    },
    {
      method: 'post',
      path: '/api/parts',
      summary: 'Add a part of one’s own',
      body: Part,
      answer: OwnPart,
      status: 201,
      handle: (request) => parts.add(request.body as Part),
    },
    {
      method: 'put',
      path: '/api/parts/:id',
      summary: 'Replace a part of one’s own; If-Match carries the version that was edited',
      body: Part,
      answer: OwnPart,
      handle: (request) => parts.replace(request.params['id']!, ifMatch(request), request.body as Part),
    },
    {
      method: 'delete',
      path: '/api/parts/:id',
      summary: 'Delete a part of one’s own; it can be restored',
      handle: (request) => parts.remove(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/parts/:id/restore',
      summary: 'Bring a deleted part back',
      answer: OwnPart,
      handle: (request) => parts.restore(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/parts-file',
      summary:
        'Import parts, sent as the body; ?format= is csv or json. Bad rows are reported, good ones kept',
      answer: PartsImported,
      handle: async (request) => parts.importFile(await textOf(request), formatOf(request)),
    },
    {
      method: 'get',
      path: '/api/parts-file',
      summary: 'Export one’s own parts, or with ?whole=1 the whole shelf; ?format= is csv or json',
      media: 'text/plain',
      async handle(request, response) {
        const format = formatOf(request);
        const text = await parts.exportFile(format, request.query['whole'] === '1');
        response.setHeader('Content-Disposition', `attachment; filename="parts.${format}"`);
        response.type(format === 'csv' ? 'text/csv; charset=utf-8' : 'application/json').send(text);
      },
    },
  ];
}

function formatOf(request: Request<Record<string, string>>): PartsFormat {
  const format = request.query['format'];
  if (format === 'csv' || format === 'json') return format;
  throw new ProblemError(
    422,
    'invalid-query',
    'Not valid',
    `format must be csv or json; received "${String(format ?? '')}".`,
    'Correct the address.',
    'format',
  );
}

/** The body as text, whatever its declared kind. */
async function textOf(request: Request<Record<string, string>>): Promise<string> {
  const pieces: Buffer[] = [];
  let bytes = 0;
  for await (const piece of request as unknown as AsyncIterable<Buffer>) {
    bytes += piece.length;
    if (bytes > MAX_FILE_BYTES)
      throw new ProblemError(
        413,
        'too-large',
        'Too large',
        `A file of parts may have ${MAX_FILE_BYTES / 1e6} MB.`,
        'Split the file.',
      );
    pieces.push(piece);
  }
  return Buffer.concat(pieces).toString('utf8');
}
