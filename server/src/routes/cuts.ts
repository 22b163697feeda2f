import { DiskState, JoinBody, NewMarker, Recording, SplitBody, TrimBody } from '@lucky-needle/core/model';
import { Type } from 'typebox';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';

export function cutRoutes({ cuts }: Services): Route[] {
  return [
    {
      method: 'post',
      path: '/api/recordings/:id/trim',
      summary: 'Keep only a stretch of a recording, or with null all of it again; no sample is lost',
      body: TrimBody,
      answer: Recording,
      handle: (request) => cuts.trim(request.params['id']!, (request.body as TrimBody).keep),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/split',
      summary: 'Make two recordings of one, at a moment',
      body: SplitBody,
      answer: Type.Object({ items: Type.Array(Recording) }),
      handle: (request) => cuts.split(request.params['id']!, (request.body as SplitBody).atS),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/recordings/join',
      summary: 'Make one recording of several, in order, with the time between them',
      body: JoinBody,
      answer: Recording,
      status: 201,
      handle: (request) => cuts.join(request.params['id']!, request.body as JoinBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/markers',
      summary: 'Mark a moment; with a time of null the newest reading',
      body: NewMarker,
      answer: Recording,
      status: 201,
      handle: (request) => cuts.mark(request.params['id']!, request.body as NewMarker),
    },
    {
      method: 'delete',
      path: '/api/recordings/:id/markers/:markerId',
      summary: 'Take a mark away',
      answer: Recording,
      handle: (request) => cuts.unmark(request.params['id']!, request.params['markerId']!),
    },
    {
      method: 'delete',
      path: '/api/recordings/:id',
      summary: 'Delete a recording; it can be brought back for thirty days',
      handle: (request) => cuts.remove(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/restore',
      summary: 'Bring a deleted recording back',
      answer: Recording,
      handle: (request) => cuts.restore(request.params['id']!),
    },
    {
      method: 'get',
      path: '/api/disk',
      summary: 'Room on the disk, and how long it lasts at what is being recorded',
      answer: DiskState,
      handle: () => cuts.disk(),
    },
  ];
}
