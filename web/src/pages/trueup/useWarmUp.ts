import type { Gadget } from '@lucky-needle/core/model';
import { usePlan } from '../../app/useShelf.ts';
import { useLive } from '../../live/useLive.ts';

/** How long a gadget's parts for some asks still have to warm up; the board's clock tells how long it has been on. */
export function useWarmUp(gadget: Gadget, askIds: readonly string[]): { warmUpS: number; coldS: number } {
  const live = useLive();
  const plan = usePlan(gadget);
  const parts = plan?.sensing.filter((s) => askIds.includes(s.ask.id)) ?? [];
  const warmUpS = Math.max(0, ...parts.map((s) => s.part?.warmUpS ?? 0));
  return { warmUpS, coldS: warmUpS - (live.times.at(-1) ?? 0) };
}

/** Seconds as minutes and seconds. */
export const clock = (s: number): string =>
  `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;
