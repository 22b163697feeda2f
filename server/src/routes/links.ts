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
      summary: 'The link of a gadget; null while it has none, which is a state of its own',
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
        'Link a gadget: simulated, on a cable, pushing, by a topic, or through a log file; a token is told this once',
      body: NewLink,
      answer: MadeLink,
      status: 201,
      handle: (request) => links.make(request.params['id']!, request.body as NewLink),
    },
    {
      method: 'patch',
      path: '/api/gadgets/:id/link',
      summary:
        'Move simulated probes, change the pace of simulated time, pull the cable, break it, or map the lines anew',
      body: LinkPatch,
      answer: Link,
      handle: async (request) => (await links.patch(request.params['id']!, request.body as LinkPatch)).link,
    },
    {
      method: 'delete',
      path: '/api/gadgets/:id/link',
      summary: 'Take the link away; what was recorded stays',
      handle: (request) => links.remove(request.params['id']!),
    },
    {
      method: 'get',
      path: '/api/gadgets/:id/link/lines',
      summary: 'The newest lines as they came, what they look like, and how they are read',
      answer: LinkLines,
      handle: async (request) => links.runner(request.params['id']!).looked,
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/link/token',
      summary: 'A new token for a pushing gadget; the old one no longer works',
      answer: MadeLink,
      handle: (request) => links.renewToken(request.params['id']!),
    },
    {
      method: 'post',
      path: '/api/gadgets/:id/link/text',
      summary: 'Text that a page reads from a cable',
      body: LinkText,
      handle: async (request) => links.takeText(request.params['id']!, (request.body as LinkText).text),
    },
    {
      method: 'get',
      path: '/api/broker',
      summary: 'Address of the bench’s own broker, started when it is first asked for',
      answer: Type.Object({ address: Type.String() }),
      handle: async () => ({ address: await bench.links.ownBroker() }),
    },
    {
      method: 'post',
      path: '/api/push/:linkId',
      summary:
        'Readings that a gadget sends by itself; "Authorization: Bearer" carries the token of the link',
      body: PushBody,
      answer: PushAnswer,
      // Most come in by the door that is made for them.
      handle: async (request) =>
        links.push(request.params['linkId']!, request.headers.authorization, request.body as PushBody),
    },
  ];
}
