import { DiskState, JoinBody, NewMarker, Recording, SplitBody, TrimBody } from '@lucky-needle/core/model';
import { Type } from 'typebox';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';

export function cutRoutes({ cuts }: Services): Route[] {
  return [
    {
      method: 'post',
      path: '/api/recordings/:id/trim',
      summary: 'Keep only a section of a run, or all of it again with null; no samples are lost',
      body: TrimBody,
      answer: Recording,
      handle: (request) => cuts.trim(request.params['id']!, (request.body as TrimBody).keep),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/split',
      summary: 'Split a run into two at a given time',
      body: SplitBody,
      answer: Type.Object({ items: Type.Array(Recording) }),
      handle: (request) => cuts.split(request.params['id']!, (request.body as SplitBody).atS),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/recordings/join',
      summary: 'Join several runs into one, in time order, keeping the gaps between them',
      body: JoinBody,
      answer: Recording,
      status: 201,
      handle: (request) => cuts.join(request.params['id']!, request.body as JoinBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/markers',
      summary: 'Add a marker; with a null time, at the latest reading',
      body: NewMarker,
      answer: Recording,
      status: 201,
      handle: (request) => cuts.mark(request.params['id']!, request.body as NewMarker),
    },
    {
      method: 'delete',
      path: '/api/recordings/:id/markers/:markerId',
      summary: 'Delete a marker',
      answer: Recording,
      handle: (request) => cuts.unmark(request.params['id']!, request.params['markerId']!),
    },
    {
      method: 'delete',
      path: '/api/recordings/:id',
      summary: 'Delete a run; it can be restored for thirty days',
      handle: (request) => cuts.remove(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/restore',
      summary: 'Restore a deleted run',
      answer: Recording,
      handle: (request) => cuts.restore(request.params['id']!),
    },
    {
      method: 'get',
      path: '/api/disk',
      summary: 'Free disk space, and how long it lasts at the current recording rate',
      answer: DiskState,
      handle: () => cuts.disk(),
    },
  ];
}
