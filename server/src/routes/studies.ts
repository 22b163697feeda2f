import { JudgedStudy, NewStudy, StudyBody, StudyPairs, StudyPairsBody } from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';
import { ifMatch, listOf } from './paging.ts';

/** Studies: evidence for a claim, gathered and judged. */
export function studyRoutes({ studies }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/gadgets/:id/studies',
      summary: 'Studies of a gadget, oldest first, each with its present verdict',
      answer: listOf(JudgedStudy),
      async handle(request) {
        const items = await studies.list(request.params['id']!);
        return { items, total: items.length };
      },
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/studies',
      summary: 'Create a study of a channel’s reading or of one of its results',
      body: NewStudy,
      answer: JudgedStudy,
      status: 201,
      handle: (request) => studies.begin(request.params['id']!, request.body as NewStudy),
    },
    {
      method: 'get',
      path: '/api/studies/:id',
      summary: 'A study with its present verdict',
      answer: JudgedStudy,
      handle: (request) => studies.find(request.params['id']!),
    },
    {
      method: 'put',
      path: '/api/studies/:id',
      summary: 'Save evidence and settings; send the version you edited in If-Match',
      body: StudyBody,
      answer: JudgedStudy,
      handle: (request) =>
        studies.replace(request.params['id']!, ifMatch(request), request.body as StudyBody),
    },
    {
      method: 'post',
      path: '/api/studies/:id/pairs',
      summary:
        'Readings of two runs side by side, the study’s channel and a comparison channel, as rows for the study; nothing is stored',
      body: StudyPairsBody,
      answer: StudyPairs,
      handle: (request) => studies.pairs(request.params['id']!, request.body as StudyPairsBody),
    },
    {
      method: 'delete',
      path: '/api/studies/:id',
      summary: 'Delete a study; it can be restored',
      handle: (request) => studies.remove(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/studies/:id/restore',
      summary: 'Restore a deleted study',
      answer: JudgedStudy,
      handle: (request) => studies.restore(request.params['id']!),
    },
  ];
}
