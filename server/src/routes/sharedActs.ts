import {
  AiringNow,
  Gadget,
  GuidedCalibrations,
  LampLight,
  NewAiring,
  NewLampLight,
} from '@lucky-needle/core/model';
import type { Route } from '../http/route.ts';
import type { Services } from '../services/services.ts';

/** True-ups that serve several channels at once, taken from what is heard now. */
export function sharedActRoutes({ airing, lampLight }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/gadgets/:id/airing',
      summary: 'How all heated elements stand now, and why they cannot be kept as in clean air',
      answer: AiringNow,
      handle: (request) => airing.look(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/airing',
      summary:
        'Keep clean air for all heated elements as they stand now, and use their baselines: all of them, or none',
      body: NewAiring,
      answer: GuidedCalibrations,
      status: 201,
      handle: (request) => airing.keep(request.params['id']!, request.body as NewAiring),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/lamp-light',
      summary: 'What each lamp of a light path gives now, and why that is no dark and no blank',
      answer: LampLight,
      handle: (request) => lampLight.look(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/lamp-light',
      summary:
        'Put what all lamps give now in all lines that read them, as their dark or their blank: in all, or in none',
      body: NewLampLight,
      answer: Gadget,
      handle: (request) => lampLight.keep(request.params['id']!, request.body as NewLampLight),
    },
  ];
}
