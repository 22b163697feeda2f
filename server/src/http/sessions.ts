import { createHash, randomBytes } from 'node:crypto';
import type { IncomingMessage } from 'node:http';

/** A browser stays signed in for so long. */
const LASTS_S = 30 * 86_400;
const MOST = 1000;
const COOKIE = 'lucky-needle';

/** Browsers that have given the passphrase. They are forgotten when the server ends. */
export class Sessions {
  private readonly until = new Map<string, number>();
  private readonly now: () => number;

  /** @param now ms, by a clock that only runs forwards */
  constructor(now = () => performance.now()) {
    this.now = now;
  }

  /** @returns the cookie that the browser keeps: no page can read it, and no foreign page can have it sent */
  begin(): string {
    const token = randomBytes(32).toString('base64url');
    if (this.until.size >= MOST) this.until.delete(this.until.keys().next().value!);
    this.until.set(hashOf(token), this.now() + 1000 * LASTS_S);
    return `${COOKIE}=${token}; Path=/; Max-Age=${LASTS_S}; HttpOnly; SameSite=Strict`;
  }

  isKnown(request: IncomingMessage): boolean {
    const token = new RegExp(`(?:^|; )${COOKIE}=([\\w-]+)`).exec(request.headers.cookie ?? '')?.[1];
    // Looked up by its hash, so that the time it takes tells nothing of the tokens.
    return token !== undefined && (this.until.get(hashOf(token)) ?? 0) > this.now();
  }
}

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');
