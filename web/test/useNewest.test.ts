import { act, renderHook } from '@testing-library/react';
import { expect, it } from 'vitest';
import { useNewest } from '../src/workers/useNewest.ts';

/** Work whose pieces the test finishes one by one. */
function slowWork() {
  const begun: number[] = [];
  const finish: (() => void)[] = [];
  const work = (n: number) =>
    new Promise<string>((done) => {
      begun.push(n);
      finish.push(() => done(`done ${n}`));
    });
  return { begun, work, finishNext: () => act(async () => finish.shift()!()) };
}

it('works on one piece at a time, and of what waits takes only the newest', async () => {
  const { begun, work, finishNext } = slowWork();
  const { result, rerender } = renderHook(({ n }) => useNewest(n, work), {
    initialProps: { n: 1 as number | null },
  });
  for (const n of [2, 3, 4]) rerender({ n });
  expect(begun).toEqual([1]);
  expect(result.current).toBeNull();
  await finishNext();
  expect(result.current).toBe('done 1');
  expect(begun).toEqual([1, 4]);
  await finishNext();
  expect(result.current).toBe('done 4');
  expect(begun).toEqual([1, 4]);
});

it('forgets with its input, and lets no late result through', async () => {
  const { work, finishNext } = slowWork();
  const { result, rerender } = renderHook(({ n }) => useNewest(n, work), {
    initialProps: { n: 1 as number | null },
  });
  rerender({ n: null });
  await finishNext();
  expect(result.current).toBeNull();
  rerender({ n: 5 });
  await finishNext();
  expect(result.current).toBe('done 5');
});
