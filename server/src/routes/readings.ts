import {
  BetweenAnswer,
  BetweenBody,
  CompareAnswer,
  CompareBody,
  LookAnswer,
  LookBody,
  PassesAnswer,
  PassesBody,
  RecordingReadings,
  ShapeAnswer,
  ShapeBody,
  StepsAnswer,
  StepsBody,
  StretchesAnswer,
  StretchesBody,
} from '@lucky-needle/core/model';
import { ProblemError } from '../http/problem.ts';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';
import { numberOf, textOf } from './paging.ts';

const MOST_POINTS = 20_000;

/** Readings of recordings: the same number for the same moment, whatever stretch is asked for. */
export function readingsRoutes({ readings }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/recordings/:id/readings',
      summary:
        'Readings of ?channel with its active calibration between ?fromS and ?toS, reduced to about ?points points: if there are more, the lowest and highest of each section',
      answer: RecordingReadings,
      async handle(request) {
        const points = numberOf(request, 'points', 2000);
        if (!Number.isInteger(points) || points < 2 || points > MOST_POINTS)
          throw new ProblemError(
            422,
            'invalid-query',
            'Invalid query',
            `points must be a whole number from 2 to ${MOST_POINTS}; received ${points}.`,
            'Correct the URL.',
            'points',
          );
        const bound = (name: string) =>
          request.query[name] === undefined ? null : numberOf(request, name, 0);
        return readings.channel(
          request.params['id']!,
          textOf(request, 'channel'),
          bound('fromS'),
          bound('toS'),
          points,
        );
      },
    },
    {
      method: 'post',
      path: '/api/recordings/:id/look',
      summary:
        'Readings calculated with given lines, or the progress so far: repeat the request until it is complete',
      body: LookBody,
      answer: LookAnswer,
      handle: (request) => readings.look(request.params['id']!, request.body as LookBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/between',
      summary: 'Readings at two times, and the mean between them',
      body: BetweenBody,
      answer: BetweenAnswer,
      handle: (request) => readings.between(request.params['id']!, request.body as BetweenBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/stretches',
      summary: 'Sections of a run where a reading is beyond a level',
      body: StretchesBody,
      answer: StretchesAnswer,
      handle: (request) => readings.stretches(request.params['id']!, request.body as StretchesBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/shape',
      summary: 'Distribution and frequency spectrum of the readings in a section',
      body: ShapeBody,
      answer: ShapeAnswer,
      handle: (request) => readings.shape(request.params['id']!, request.body as ShapeBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/steps',
      summary: 'Load steps: sections where the first line is steady, and the values of all lines there',
      body: StepsBody,
      answer: StepsAnswer,
      handle: (request) => readings.steps(request.params['id']!, request.body as StepsBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/compare',
      summary: 'Compare a run read with two lines, and the difference between them',
      body: CompareBody,
      answer: CompareAnswer,
      handle: (request) => readings.compare(request.params['id']!, request.body as CompareBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/passes',
      summary: 'Time at which a reading first crosses a level',
      body: PassesBody,
      answer: PassesAnswer,
      handle: (request) => readings.passes(request.params['id']!, request.body as PassesBody),
    },
  ];
}
