import { createHash, timingSafeEqual } from 'node:crypto';

const digest = (text: string) => createHash('sha256').update(text).digest();

/** Whether two secrets are the same, in a time that tells nothing of either; of any length and any letters. */
export const sameSecret = (a: string, b: string): boolean => timingSafeEqual(digest(a), digest(b));
