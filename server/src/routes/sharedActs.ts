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
      summary: 'Present state of all heated gas sensors, and why clean air cannot be captured yet',
      answer: AiringNow,
      handle: (request) => airing.look(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/airing',
      summary: 'Capture clean air for all heated gas sensors and use their new baselines; all or none',
      body: NewAiring,
      answer: GuidedCalibrations,
      status: 201,
      handle: (request) => airing.keep(request.params['id']!, request.body as NewAiring),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/lamp-light',
      summary: 'Present light of each lamp, and why it cannot be used as dark or as blank',
      answer: LampLight,
      handle: (request) => lampLight.look(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/lamp-light',
      summary:
        'Save the present light of all lamps as dark or blank in every line that uses them; all or none',
      body: NewLampLight,
      answer: Gadget,
      handle: (request) => lampLight.keep(request.params['id']!, request.body as NewLampLight),
    },
  ];
}
