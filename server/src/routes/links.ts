import {
  Link,
  LinkLines,
  LinkPatch,
  LinkText,
  MadeLink,
  NewLink,
  PushAnswer,
  PushBody,
} from '@lucky-needle/core/model';
import { Type } from 'typebox';
import type { Route } from '../http/route.ts';
import type { Bench } from '../services/bench.ts';
import type { Services } from '../services/services.ts';

export function linkRoutes(bench: Bench, { gadgets, links }: Services): Route[] {
  return [
    {
      method: 'get',
      path: '/api/gadgets/:id/link',
      summary: 'The gadget’s link, or null if it has none',
      answer: Type.Union([Link, Type.Null()]),
      async handle(request) {
        const { id } = await gadgets.find(request.params['id']!);
        return bench.links.of(id)?.link ?? null;
      },
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/link',
      summary:
        'Create a link: simulated, serial cable, HTTP push, MQTT topic or log file; the token is returned only once',
      body: NewLink,
      answer: MadeLink,
      status: 201,
      handle: (request) => links.make(request.params['id']!, request.body as NewLink),
    },
    {
      method: 'patch',
      path: '/api/gadgets/:id/link',
      summary: 'Change a link: simulated condition, simulation speed, unplug, faults, or line format',
      body: LinkPatch,
      answer: Link,
      handle: async (request) => (await links.patch(request.params['id']!, request.body as LinkPatch)).link,
    },
    {
      method: 'delete',
      path: '/api/gadgets/:id/link',
      summary: 'Remove the link; runs are kept',
      handle: (request) => links.remove(request.params['id']!),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/link/lines',
      summary: 'The latest lines as received, the detected format, and how they are read',
      answer: LinkLines,
      handle: async (request) => links.runner(request.params['id']!).looked,
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/link/token',
      summary: 'Create a new token for the gadget; the old one stops working',
      answer: MadeLink,
      handle: (request) => links.renewToken(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/link/text',
      summary: 'Text that a page has read from a serial port',
      body: LinkText,
      handle: async (request) => links.takeText(request.params['id']!, (request.body as LinkText).text),
    },
    {
      method: 'get',
      path: '/api/broker',
      summary: 'Address of the built-in MQTT broker, which is started on the first request',
      answer: Type.Object({ address: Type.String() }),
      handle: async () => ({ address: await bench.links.ownBroker() }),
    },
    {
      method: 'post',
      path: '/api/push/:linkId',
      summary: 'Readings pushed by a gadget; "Authorization: Bearer" carries the link’s token',
      body: PushBody,
      answer: PushAnswer,
      // Most come in by the door that is made for them.
      handle: async (request) =>
        links.push(request.params['linkId']!, request.headers.authorization, request.body as PushBody),
    },
  ];
}
