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
        'Latest reading of every channel, calculated by the server even with no page open: value, unit, expanded uncertainty, or why there is none',
      answer: Type.Object({ channels: Type.Array(NowReading) }),
      handle: (request) => live.now(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/press',
      summary: 'Press a virtual button, such as a race start: records an event now, on the gadget’s clock',
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
      summary: 'Reset the results of a channel: counts, extremes and sums start over',
      body: ResetBody,
      status: 204,
      handle: (request) => live.reset(request.params['id']!, (request.body as ResetBody).channelId),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/alarms',
      summary: 'State of every alarm; the server runs alarms even with no page open',
      answer: GadgetAlarms,
      handle: (request) => live.alarms(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/alarms/:ruleId/see',
      summary: 'Acknowledge an alarm: releases its latch and silences its sounder',
      answer: GadgetAlarms,
      handle: (request) => live.seeAlarm(request.params['id']!, request.params['ruleId']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/silence',
      summary:
        'Silence all sounders for a number of seconds; alarms that start or get worse in that time still sound',
      body: AlarmSilence,
      answer: GadgetAlarms,
      handle: (request) => live.silenceAlarms(request.params['id']!, request.body as AlarmSilence),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/stretch',
      summary:
        'Mean and scatter of the live readings of ?channel between ?fromS and ?toS on the gadget’s clock, at most 15 minutes back',
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
