import type { Part } from '../model/part.ts';
import type { GadgetPlan } from './gadgetPlan.ts';
import { rankBoards } from './rankBoards.ts';
import { rankDisplays } from './rankDisplays.ts';
import { rankSensors } from './rankSensors.ts';
import { rankSounders } from './rankSounders.ts';
import { rankSupplies } from './rankSupplies.ts';
import type { Candidate, Weights } from './verdict.ts';

/** Ranks what could stand in a slot: an ask's sensors, or the boards, displays, supplies and sounders. */
export function rankSlot(plan: GadgetPlan, slot: string, weights?: Weights): Candidate<Part>[] {
  switch (slot) {
    case 'board':
      return rankBoards(plan, weights);
    case 'display':
      return rankDisplays(plan, weights);
    case 'supply':
      return rankSupplies(plan, weights);
    case 'sounder':
      return rankSounders(plan, weights);
    default:
      return rankSensors(plan, slot, weights);
  }
}
