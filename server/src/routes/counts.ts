import { CountAnswer, CountBody, RecordingEvents, RecordingFigures } from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';
import { textOf } from './paging.ts';

/** What counts in recordings, and what is made of it. */
export function countsRoutes({ counts }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/recordings/:id/events',
      summary: 'Events of ?channel: time with standard uncertainty, size, and why some are ignored',
      answer: RecordingEvents,
      handle: (request) => counts.events(request.params['id']!, textOf(request, 'channel')),
    },
    {
      method: 'get',
      path: '/api/recordings/:id/figures',
      summary:
        'Results of every channel over the whole run: value, unit, expanded uncertainty and calculation, or why there is none',
      answer: RecordingFigures,
      handle: (request) => counts.figures(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/count',
      summary:
        'Events and results with the stored channels or with one changed channel, or the progress so far: repeat the request until it is complete',
      body: CountBody,
      answer: CountAnswer,
      handle: (request) => counts.look(request.params['id']!, request.body as CountBody),
    },
  ];
}
