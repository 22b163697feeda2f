import type { Gadget } from '../model/gadget.ts';
import type { Part } from '../model/part.ts';
import { planOf } from './gadgetPlan.ts';

export interface KnownWarmUp {
  /** False while no part is picked that would tell: then nobody knows when it is warm. */
  readonly isKnown: boolean;
  /** The longest of the parts picked, s; 0 where none is. */
  readonly seconds: number;
}

/** How long the parts picked for some asks warm up. */
export function warmUpFor(gadget: Gadget, askIds: readonly string[], parts: readonly Part[]): KnownWarmUp {
  const plan = gadget.brief && planOf(gadget, parts);
  const sensing = plan?.sensing.filter((s) => askIds.includes(s.ask.id)) ?? [];
  return {
    isKnown: sensing.length > 0 && sensing.every((s) => s.part !== null),
    seconds: Math.max(0, ...sensing.map((s) => s.part?.warmUpS ?? 0)),
  };
}
