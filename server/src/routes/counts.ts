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
      summary:
        'Events of ?channel: when, how large, with the standard uncertainty of their time, and why some do not count',
      answer: RecordingEvents,
      handle: (request) => counts.events(request.params['id']!, textOf(request, 'channel')),
    },
    {
      method: 'get',
      path: '/api/recordings/:id/figures',
      summary:
        'Figures of every channel over the whole recording: value, unit, expanded uncertainty and the arithmetic, or why there is none',
      answer: RecordingFigures,
      handle: (request) => counts.figures(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/count',
      summary:
        'Events and figures, by the channels as stored or with one tried otherwise; or how much is done: then ask again',
      body: CountBody,
      answer: CountAnswer,
      handle: (request) => counts.look(request.params['id']!, request.body as CountBody),
    },
  ];
}
