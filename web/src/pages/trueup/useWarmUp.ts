import type { Gadget } from '@lucky-needle/core/model';
import { usePlan } from '../../app/useShelf.ts';
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
  const plan = usePlan(gadget);
  const sensing = plan?.sensing.filter((s) => askIds.includes(s.ask.id)) ?? [];
  const warmUpS = Math.max(0, ...sensing.map((s) => s.part?.warmUpS ?? 0));
  return {
    isKnown: sensing.length > 0 && sensing.every((s) => s.part !== null),
    coldS: warmUpS - (live.times.at(-1) ?? 0),
  };
}

/** Seconds as minutes and seconds. */
export const clock = (s: number): string =>
  `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;
