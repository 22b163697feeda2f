import { describe, expect, it } from 'vitest';
import { goAhead, standAside } from '../src/recordings/turns.ts';

describe('work that stands aside', () => {
  it('waits while something goes ahead, also of several and of one that fails, and for nothing else', async () => {
    expect(standAside()).toBeUndefined();
    let end: () => void = () => undefined;
    const first = goAhead(() => new Promise<void>((done) => (end = done)));
    const failing = goAhead(() => Promise.reject(new Error('stopped')));
    let isThrough = false;
    const waiting = Promise.resolve(standAside()).then(() => (isThrough = true));
    await expect(failing).rejects.toThrow('stopped');
    await Promise.resolve();
    expect(isThrough).toBe(false);
    end();
    await Promise.all([first, waiting]);
    expect(isThrough).toBe(true);
    expect(standAside()).toBeUndefined();
    expect(await goAhead(() => Promise.resolve(7))).toBe(7);
  });
});
