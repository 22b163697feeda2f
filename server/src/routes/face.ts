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
        'A run as the gadget’s display would have shown it, as ?frames frames of readings, results and alarms, or the progress so far: repeat the request until it is complete',
      answer: FramesAnswer,
      async handle(request) {
        const count = numberOf(request, 'frames', 240);
        if (!Number.isInteger(count) || count < 2 || count > MOST_FRAMES)
          throw new ProblemError(
            422,
            'invalid-query',
            'Invalid query',
            `frames must be a whole number from 2 to ${MOST_FRAMES}; received ${count}.`,
            'Correct the URL.',
            'frames',
          );
        return faceFrames.look(request.params['id']!, count);
      },
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/face/now',
      summary: 'The gadget’s display now: one frame of readings, results and alarms, with acknowledgements',
      answer: FramesAnswer,
      handle: (request) => live.face(request.params['id']!),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/face/header',
      summary: 'C header for the gadget’s own code: alarms, and the rows of a character display',
      media: 'text/x-c',
      async handle(request, response) {
        const { name, text } = await faceHeader(request.params['id']!);
        response.setHeader('Content-Disposition', `attachment; filename="${name}"`);
        response.type('text/x-c; charset=utf-8').send(text);
      },
    },
  ];
}
