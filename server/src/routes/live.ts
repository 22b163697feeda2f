import {
  AlarmSilence,
  GadgetAlarms,
  LiveStretch,
  NowReading,
  PressBody,
  ResetBody,
} from '@lucky-needle/core/model';
import { Type } from 'typebox';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';
import { numberOf, textOf } from './paging.ts';

/** What a linked gadget reads right now. */
export function liveRoutes({ live }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/gadgets/:id/now',
      summary:
        'The newest reading of every channel, as the server works it out whether a page is open or not: value, unit, expanded uncertainty, or why there is none',
      answer: Type.Object({ channels: Type.Array(NowReading) }),
      handle: (request) => live.now(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/press',
      summary:
        'Press a button of the bench, such as the start of a race: an event now, on the gadget’s clock',
      body: PressBody,
      answer: Type.Object({ timeS: Type.Number() }),
      handle(request) {
        const { channelId, watchId } = request.body as PressBody;
        return live.press(request.params['id']!, channelId, watchId);
      },
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/reset',
      summary: 'Begin the figures of a channel anew: counts, extremes and sums start from here',
      body: ResetBody,
      status: 204,
      handle: (request) => live.reset(request.params['id']!, (request.body as ResetBody).channelId),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/alarms',
      summary: 'How every alarm stands, as the server runs them whether a page is open or not',
      answer: GadgetAlarms,
      handle: (request) => live.alarms(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/alarms/:ruleId/see',
      summary: 'Somebody has seen an alarm: what its latch holds lets go, and its sounder is quiet',
      answer: GadgetAlarms,
      handle: (request) => live.seeAlarm(request.params['id']!, request.params['ruleId']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/silence',
      summary: 'Silence all sounders for so many seconds; what comes or goes up meanwhile sounds',
      body: AlarmSilence,
      answer: GadgetAlarms,
      handle: (request) => live.silenceAlarms(request.params['id']!, request.body as AlarmSilence),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/stretch',
      summary:
        'Mean and scatter of the live readings of ?channel between ?fromS and ?toS of the gadget’s clock; up to a quarter of an hour back',
      answer: LiveStretch,
      handle: (request) =>
        live.stretch(
          request.params['id']!,
          textOf(request, 'channel'),
          numberOf(request, 'fromS', -1e300),
          numberOf(request, 'toS', 1e300),
        ),
    },
  ];
}
