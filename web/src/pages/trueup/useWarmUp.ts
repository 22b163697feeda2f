import { useMemo } from 'react';
import type { Gadget } from '@lucky-needle/core/model';
import { warmUpFor } from '@lucky-needle/core/plan';
import { useShelf } from '../../app/useShelf.ts';
import { useLive } from '../../live/useLive.ts';

export interface WarmUp {
  /** False while no part is picked that would tell: then nobody knows whether it is warm. */
  readonly isKnown: boolean;
  /** How long it still has to warm up, s; 0 or less when it is warm. */
  readonly coldS: number;
}

/** How long a gadget's parts for some asks still have to warm up; the board's clock tells how long it has been on. */
export function useWarmUp(gadget: Gadget, askIds: readonly string[]): WarmUp {
  const live = useLive();
  const shelf = useShelf();
  const key = askIds.join(' ');
  const { isKnown, seconds } = useMemo(() => warmUpFor(gadget, key.split(' '), shelf), [gadget, key, shelf]);
  return { isKnown, coldS: seconds - (live.times.at(-1) ?? 0) };
}

/** Seconds as minutes and seconds. */
export const clock = (s: number): string =>
  `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;
