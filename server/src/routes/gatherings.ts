import {
  GatheringBody,
  GatheringNow,
  TakeBody,
  TakenEvidence,
  type GatheringKind,
} from '@lucky-needle/core/model';
import { ProblemError } from '../http/problem.ts';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';
import { textOf } from './paging.ts';

const KINDS: readonly string[] = ['cloud', 'drag'] satisfies GatheringKind[];

/** What guided true-ups gather from the live rows. */
export function gatheringRoutes({ gatherings }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/gadgets/:id/gathering',
      summary:
        'Readings gathered so far for ?channel and ?kind: a rotation through all directions, or a drag',
      answer: GatheringNow,
      handle(request) {
        const kind = textOf(request, 'kind');
        if (!KINDS.includes(kind))
          throw new ProblemError(
            422,
            'invalid-query',
            'Invalid query',
            `kind must be ${KINDS.join(' or ')}; received ${kind}.`,
            'Correct the URL.',
            'kind',
          );
        return gatherings.look(request.params['id']!, textOf(request, 'channel'), kind as GatheringKind);
      },
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/gathering',
      summary: 'Start, stop or discard gathering for a channel; it continues with no page open',
      body: GatheringBody,
      answer: GatheringNow,
      handle: (request) => gatherings.act(request.params['id']!, request.body as GatheringBody),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/taken',
      summary: 'Preview of the evidence from the latest readings; nothing is stored',
      body: TakeBody,
      answer: TakenEvidence,
      handle: (request) => gatherings.take(request.params['id']!, request.body as TakeBody),
    },
  ];
}
