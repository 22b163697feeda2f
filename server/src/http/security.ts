import { createHash, timingSafeEqual } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import type { NextFunction, Request, Response } from 'express';
import type { ServerConfig } from '../config.ts';
import { Guesses } from './guesses.ts';
import { ProblemError } from './problem.ts';

const guesses = new Guesses();

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
  const host = request.headers.host ?? '';
  const name = host.replace(/:\d+$/, '');
  if (![...LOOPBACK_NAMES, config.host, ...config.names].includes(name)) return 'host';
  const origin = request.headers.origin;
  const own = [`http://${host}`, `https://${host}`, config.devOrigin];
  if (origin !== undefined && !own.includes(origin)) return 'origin';
  if (request.headers['sec-fetch-site'] === 'cross-site' && request.headers['sec-fetch-mode'] !== 'navigate')
    return 'origin';
  // A pushing gadget shows the token of its link instead.
  if (request.headers.upgrade === undefined && PUSH.test((request.url ?? '').split('?')[0]!)) return null;
  if (config.passphrase === null) return null;
  const address = request.socket.remoteAddress ?? '';
  if (guesses.isHeld(address)) return 'held';
  if (passphraseGiven(request, config.passphrase)) {
    guesses.right(address);
    return null;
  }
  // A browser asks once without any: that is no guess.
  if (request.headers.authorization !== undefined) guesses.wrong(address);
  return 'passphrase';
}

function passphraseGiven(request: IncomingMessage, passphrase: string): boolean {
  const [scheme, encoded] = (request.headers.authorization ?? '').split(' ');
  if (scheme !== 'Basic' || !encoded) return false;
  const given = Buffer.from(encoded, 'base64')
    .toString('utf8')
    .replace(/^[^:]*:/, '');
  const digest = (text: string) => createHash('sha256').update(text).digest();
  return timingSafeEqual(digest(given), digest(passphrase));
}

export function guard(config: ServerConfig) {
  return (request: Request, response: Response, next: NextFunction): void => {
    const why = refusal(request, config);
    if (why === null) return next();
    if (why === 'held')
      throw new ProblemError(
        429,
        'too-many-guesses',
        'Wait a little',
        'Too many wrong passphrases came from this address.',
        'Wait a minute, then give the right one.',
      );
    if (why === 'passphrase') {
      response.setHeader('WWW-Authenticate', 'Basic realm="Lucky Needle", charset="UTF-8"');
      throw new ProblemError(
        401,
        'passphrase',
        'Passphrase needed',
        'This bench asks for its passphrase.',
        'Give any name and the passphrase of the server.',
      );
    }
    throw new ProblemError(
      403,
      why === 'host' ? 'foreign-host' : 'foreign-origin',
      'Refused',
      why === 'host'
        ? `The bench is not known by the name "${request.headers.host ?? ''}".`
        : `A page from "${request.headers.origin ?? 'another site'}" may not call the bench.`,
      'Open the address that the server printed at start.',
    );
  };
}
