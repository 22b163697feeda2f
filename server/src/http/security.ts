import type { IncomingMessage } from 'node:http';
import type { NextFunction, Request, Response } from 'express';
import type { ServerConfig } from '../config.ts';
import { Guesses } from './guesses.ts';
import { ProblemError } from './problem.ts';
import { sameSecret } from './sameSecret.ts';
import { Sessions } from './sessions.ts';
import { pageOf, signInPage } from './signInPage.ts';

const guesses = new Guesses();
const sessions = new Sessions();

/** Where gadgets push, as it is written: nothing that leads elsewhere by dots or slashes. */
export const PUSH = /^\/api\/push\/[\w-]{1,64}$/;

const LOOPBACK_NAMES = ['127.0.0.1', 'localhost', '[::1]'];

/**
 * Why a request is refused, or null. Guards against DNS rebinding (a foreign name that resolves to this machine) and
 * cross-site requests (a foreign page that calls the bench), and asks for the passphrase where one is set.
 */
export function refusal(
  request: IncomingMessage,
  config: ServerConfig,
): 'host' | 'origin' | 'passphrase' | 'held' | null {
  return foreign(request, config) ?? unknown(request, config);
}

/** Whether a request comes under a foreign name or from a foreign page. */
function foreign(request: IncomingMessage, config: ServerConfig): 'host' | 'origin' | null {
  const host = request.headers.host ?? '';
  const name = host.replace(/:\d+$/, '');
  if (![...LOOPBACK_NAMES, config.host, ...config.names].includes(name)) return 'host';
  const origin = request.headers.origin;
  const own = [`http://${host}`, `https://${host}`, config.devOrigin];
  // A form names no origin where nothing is told of where one comes from; the browser tells that it is this bench.
  const isOwnForm = origin === 'null' && request.headers['sec-fetch-site'] === 'same-origin';
  if (origin !== undefined && !own.includes(origin) && !isOwnForm) return 'origin';
  if (request.headers['sec-fetch-site'] === 'cross-site' && request.headers['sec-fetch-mode'] !== 'navigate')
    return 'origin';
  return null;
}

/** Whether it comes from somebody who has not given the passphrase. */
function unknown(request: IncomingMessage, config: ServerConfig): 'passphrase' | 'held' | null {
  // A pushing gadget shows the token of its link instead.
  if (request.headers.upgrade === undefined && PUSH.test((request.url ?? '').split('?')[0]!)) return null;
  if (config.passphrase === null) return null;
  if (sessions.isKnown(request)) return null;
  const address = request.socket.remoteAddress ?? '';
  if (guesses.isHeld(address)) return 'held';
  if (isRight(basicOf(request), config.passphrase)) {
    guesses.right(address);
    return null;
  }
  // A browser comes without any at first: that is no guess.
  if (request.headers.authorization !== undefined) guesses.wrong(address);
  return 'passphrase';
}

/** What a program gives that is no browser: any name, and the passphrase. */
function basicOf(request: IncomingMessage): string | null {
  const [scheme, encoded] = (request.headers.authorization ?? '').split(' ');
  if (scheme !== 'Basic' || !encoded) return null;
  return Buffer.from(encoded, 'base64')
    .toString('utf8')
    .replace(/^[^:]*:/, '');
}

const isRight = (given: string | null, passphrase: string): boolean =>
  given !== null && sameSecret(given, passphrase);

const HELD = 'Too many wrong passphrases from this address. Wait a minute, then enter the right one.';

function sendPage(response: Response, next: string, wrong: string | null, status: number): void {
  response
    .status(status)
    .type('html')
    .setHeader('Cache-Control', 'no-store')
    .send(signInPage(pageOf(next), wrong));
}

/** Takes the passphrase from the page that asks for it, and lets the browser in. */
export function signIn(config: ServerConfig) {
  return (request: Request, response: Response): void => {
    const why = foreign(request, config);
    if (why !== null) throw foreignProblem(why, request);
    const { passphrase: given, next } = (request.body ?? {}) as Record<string, unknown>;
    const address = request.socket.remoteAddress ?? '';
    if (guesses.isHeld(address)) return sendPage(response, pageOf(next), HELD, 429);
    if (config.passphrase === null || isRight(typeof given === 'string' ? given : null, config.passphrase)) {
      guesses.right(address);
      response.setHeader('Set-Cookie', sessions.begin());
      return response.redirect(303, pageOf(next));
    }
    guesses.wrong(address);
    sendPage(response, pageOf(next), 'Wrong passphrase.', 401);
  };
}

function foreignProblem(why: 'host' | 'origin', request: Request): ProblemError {
  return new ProblemError(
    403,
    why === 'host' ? 'foreign-host' : 'foreign-origin',
    'Access denied',
    why === 'host'
      ? `This server does not answer to the name "${request.headers.host ?? ''}".`
      : `A page from "${request.headers.origin ?? 'another site'}" may not use this server.`,
    'Open the address that the server printed when it started. To allow another name, add it to LUCKY_NEEDLE_NAMES.',
  );
}

export function guard(config: ServerConfig) {
  return (request: Request, response: Response, next: NextFunction): void => {
    const why = refusal(request, config);
    if (why === null) return next();
    // Whoever opens a page is asked by a page; a program is answered as such.
    const isPage = request.method === 'GET' && request.accepts(['json', 'html']) === 'html';
    if (isPage && (why === 'held' || why === 'passphrase'))
      return sendPage(
        response,
        request.originalUrl,
        why === 'held' ? HELD : null,
        why === 'held' ? 429 : 401,
      );
    if (why === 'held')
      throw new ProblemError(
        429,
        'too-many-guesses',
        'Too many attempts',
        'Too many wrong passphrases from this address.',
        'Wait a minute, then enter the right one.',
      );
    if (why === 'passphrase') {
      // A browser would open its own box for it.
      if (request.headers['sec-fetch-site'] === undefined)
        response.setHeader('WWW-Authenticate', 'Basic realm="Lucky Needle", charset="UTF-8"');
      throw new ProblemError(
        401,
        'passphrase',
        'Passphrase required',
        'This server requires a passphrase.',
        'Send any user name with the server’s passphrase.',
      );
    }
    throw foreignProblem(why, request);
  };
}
