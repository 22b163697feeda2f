import { renderHook } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { useShownReady } from '../src/pages/trueup/useShownReady.ts';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

const show = (ready: number | null) =>
  renderHook(({ now }) => useShownReady(now), { initialProps: { now: ready } });

it('answers a press with what is shown, and a moment after noise has taken it away', () => {
  const { result, rerender } = show(null);
  expect(result.current.take()).toBeNull();
  rerender({ now: 1 });
  vi.advanceTimersByTime(60_000);
  expect(result.current.take()).toBe(1);
  rerender({ now: 2 });
  rerender({ now: null });
  vi.advanceTimersByTime(1000);
  expect(result.current.take()).toBe(2);
  vi.advanceTimersByTime(1);
  expect(result.current.take()).toBeNull();
});

it('answers one press: what was kept is not kept again until something else is shown', () => {
  const { result, rerender } = show(1);
  result.current.answered();
  rerender({ now: null });
  expect(result.current.take()).toBeNull();
  rerender({ now: 2 });
  expect(result.current.take()).toBe(2);
});
