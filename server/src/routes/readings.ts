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
        'Readings of ?channel with its calibration in use, between ?fromS and ?toS, as about ?points points: all of few, the lowest and highest of each stretch of many',
      answer: RecordingReadings,
      async handle(request) {
        const points = numberOf(request, 'points', 2000);
        if (!Number.isInteger(points) || points < 2 || points > MOST_POINTS)
          throw new ProblemError(
            422,
            'invalid-query',
            'Not valid',
            `points must be a whole number from 2 to ${MOST_POINTS}; received ${points}.`,
            'Correct the address.',
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
      summary: 'Readings by any lines, or how much of working them out is done: then ask again',
      body: LookBody,
      answer: LookAnswer,
      handle: (request) => readings.look(request.params['id']!, request.body as LookBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/between',
      summary: 'What is read at two moments, and the mean between them',
      body: BetweenBody,
      answer: BetweenAnswer,
      handle: (request) => readings.between(request.params['id']!, request.body as BetweenBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/stretches',
      summary: 'Where a reading lies beyond a level',
      body: StretchesBody,
      answer: StretchesAnswer,
      handle: (request) => readings.stretches(request.params['id']!, request.body as StretchesBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/shape',
      summary:
        'How the readings of a stretch lie: how often each came, and which frequencies they are made of',
      body: ShapeBody,
      answer: ShapeAnswer,
      handle: (request) => readings.shape(request.params['id']!, request.body as ShapeBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/steps',
      summary: 'Steps of a load: where the first line stands still, and what all lines come to there',
      body: StepsBody,
      answer: StepsAnswer,
      handle: (request) => readings.steps(request.params['id']!, request.body as StepsBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/compare',
      summary: 'A recording read by two lines, and what lies between them',
      body: CompareBody,
      answer: CompareAnswer,
      handle: (request) => readings.compare(request.params['id']!, request.body as CompareBody),
    },
    {
      method: 'post',
      path: '/api/recordings/:id/passes',
      summary: 'When a reading first passes a value',
      body: PassesBody,
      answer: PassesAnswer,
      handle: (request) => readings.passes(request.params['id']!, request.body as PassesBody),
    },
  ];
}
