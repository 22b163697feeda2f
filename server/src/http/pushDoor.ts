import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http';
import { PushBody, type PushAnswer } from '@lucky-needle/core/model';
import type { Logger } from 'pino';
import type { ServerConfig } from '../config.ts';
import { ProblemError } from './problem.ts';
import { PUSH, refusal } from './security.ts';
import { Share } from './share.ts';
import { bodyCheck } from './validate.ts';

/** Longer bodies go the way of all others. */
const MAX_BYTES = 1_000_000;
/** Requests of one link within so long. */
const [WINDOW_MS, LIMIT] = [10_000, 1000];

export type Push = (linkId: string, authorization: string | undefined, body: PushBody) => PushAnswer;

/**
 * Takes what gadgets push before anything else looks at it: they are many, and send ten times a second each, so that what
 * pages need on the way costs more than the reading itself. Whatever is not just such a request goes on to the rest of the
 * program, where the same address is served as every other.
 */
export function pushDoor(
  config: ServerConfig,
  push: Push,
  otherwise: RequestListener,
  log: Logger,
): RequestListener {
  const check = bodyCheck(PushBody);
  const share = new Share(LIMIT, WINDOW_MS);

  function take(request: IncomingMessage, text: string): PushAnswer {
    const linkId = request.url!.slice(request.url!.lastIndexOf('/') + 1);
    if (share.isUsedUp(linkId))
      throw new ProblemError(
        429,
        'too-many',
        'Too many requests',
        `A link accepts ${LIMIT} requests per ${WINDOW_MS / 1000} s.`,
        'Send several readings in one request.',
      );
    const body = parsed(text);
    check(body);
    return push(linkId, request.headers.authorization, body as PushBody);
  }

  return (request, response) => {
    const length = Number(request.headers['content-length']);
    const isPlain =
      request.method === 'POST' &&
      PUSH.test(request.url!) &&
      length > 0 &&
      length <= MAX_BYTES &&
      request.headers['content-encoding'] === undefined &&
      /^application\/json\b/.test(request.headers['content-type'] ?? '') &&
      refusal(request, config) === null;
    if (!isPlain) return void otherwise(request, response);
    const pieces: Buffer[] = [];
    request.on('data', (piece: Buffer) => pieces.push(piece));
    request.on('end', () => {
      try {
        const text = (pieces.length === 1 ? pieces[0]! : Buffer.concat(pieces)).toString('utf8');
        answer(response, 200, 'application/json', take(request, text));
      } catch (error) {
        const { problem } = error instanceof ProblemError ? error : broken(error, log);
        answer(response, problem.status, 'application/problem+json', problem);
      }
    });
  };
}

/** A mistake of our own. */
function broken(error: unknown, log: Logger): ProblemError {
  log.error({ err: error }, 'push failed');
  return new ProblemError(
    500,
    'internal',
    'Server error',
    'An internal error occurred.',
    'Try again. Details are in the server log.',
  );
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new ProblemError(
      400,
      'not-json',
      'Invalid JSON',
      'The request body is not valid JSON.',
      'Send valid JSON.',
    );
  }
}

function answer(response: ServerResponse, status: number, type: string, body: object): void {
  const text = JSON.stringify(body);
  response.writeHead(status, {
    'Content-Type': `${type}; charset=utf-8`,
    'Content-Length': Buffer.byteLength(text),
    'Cache-Control': 'no-store',
    'X-Content-Type-Options': 'nosniff',
  });
  response.end(text);
}
