import { FramesAnswer } from '@lucky-needle/core/model';
import { ProblemError } from '../http/problem.ts';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';
import { numberOf } from './paging.ts';

const MOST_FRAMES = 600;

/** What a gadget shows and sounds. */
export function faceRoutes({ faceHeader, faceFrames, live }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/recordings/:id/face',
      summary:
        'A run as the face of its gadget would have shown it, at ?frames moments: readings, figures and alarms; or how much is done: then ask again',
      answer: FramesAnswer,
      async handle(request) {
        const count = numberOf(request, 'frames', 240);
        if (!Number.isInteger(count) || count < 2 || count > MOST_FRAMES)
          throw new ProblemError(
            422,
            'invalid-query',
            'Not valid',
            `frames must be a whole number from 2 to ${MOST_FRAMES}; received ${count}.`,
            'Correct the address.',
            'frames',
          );
        return faceFrames.look(request.params['id']!, count);
      },
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/face/now',
      summary:
        'The gadget as its face shows it now: one frame of readings, figures and alarms, and what was seen',
      answer: FramesAnswer,
      handle: (request) => live.face(request.params['id']!),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/face/header',
      summary: 'The alarms, and the rows of a display of characters, as a C header for the gadget itself',
      media: 'text/x-c',
      async handle(request, response) {
        const { name, text } = await faceHeader(request.params['id']!);
        response.setHeader('Content-Disposition', `attachment; filename="${name}"`);
        response.type('text/x-c; charset=utf-8').send(text);
      },
    },
  ];
}
