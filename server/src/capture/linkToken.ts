import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import type { StoredLink } from '../db/links.ts';

const digest = (token: string) => createHash('sha256').update(token).digest();

/** What a link keeps of its token. */
export const tokenHashOf = (token: string): string => digest(token).toString('hex');

export const newToken = (): string => randomBytes(24).toString('base64url');

/** Whether a gadget that sends by itself shows the token of just this link. */
export function tokenFits(link: StoredLink | null, given: string): boolean {
  // Compared in constant time, also where there is nothing to compare with.
  const wanted = link?.tokenHash ? Buffer.from(link.tokenHash, 'hex') : randomBytes(32);
  return timingSafeEqual(digest(given), wanted);
}
