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
      summary: 'Your own parts, oldest first; the built-in shelf comes with the app',
      answer: listOf(OwnPart),
      async handle() {
        const items = await parts.list();
        return { items, total: items.length };
      },
    },
    {
      method: 'post',
      path: '/api/parts',
      summary: 'Add your own part',
      body: Part,
      answer: OwnPart,
      status: 201,
      handle: (request) => parts.add(request.body as Part),
    },
    {
      method: 'put',
      path: '/api/parts/:id',
      summary: 'Replace your own part; send the version you edited in If-Match',
      body: Part,
      answer: OwnPart,
      handle: (request) => parts.replace(request.params['id']!, ifMatch(request), request.body as Part),
    },
    {
      method: 'delete',
      path: '/api/parts/:id',
      summary: 'Delete your own part; it can be restored',
      handle: (request) => parts.remove(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/parts/:id/restore',
      summary: 'Restore a deleted part',
      answer: OwnPart,
      handle: (request) => parts.restore(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/parts-file',
      summary:
        'Import parts from the request body; ?format= is csv or json. Valid rows are imported, invalid ones reported',
      answer: PartsImported,
      handle: async (request) => parts.importFile(await textOf(request), formatOf(request)),
    },
    {
      method: 'get',
      path: '/api/parts-file',
      summary: 'Export your own parts, or with ?whole=1 the whole shelf; ?format= is csv or json',
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
    'Invalid query',
    `format must be csv or json; received "${String(format ?? '')}".`,
    'Correct the URL.',
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
        `A parts file can be at most ${MAX_FILE_BYTES / 1e6} MB.`,
        'Split it into smaller files.',
      );
    pieces.push(piece);
  }
  return Buffer.concat(pieces).toString('utf8');
}
