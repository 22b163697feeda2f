import { describe, expect, it } from 'vitest';
import { shownReady } from '../src/services/shownReady.ts';

describe('what was shown as ready to be kept', () => {
  it('is good for the press that answers it, of its own gadget, and no longer', () => {
    let ms = 0;
    const shown = shownReady<number>(() => ms);
    expect(shown.of('a')).toBeNull();
    shown.show('a', 1);
    ms = 2000;
    expect([shown.of('a'), shown.of('b')]).toEqual([1, null]);
    shown.show('a', 2);
    ms = 4500;
    expect(shown.of('a')).toBe(2);
    ms = 4501;
    expect(shown.of('a')).toBeNull();
  });

  it('is good for one press: a second does not keep again what is no longer so', () => {
    const shown = shownReady<number>(() => 0);
    shown.show('a', 1);
    shown.show('b', 2);
    shown.answered('a');
    expect([shown.of('a'), shown.of('b')]).toEqual([null, 2]);
    shown.show('a', 3);
    expect(shown.of('a')).toBe(3);
  });
});
