import type { ThermistorBankTruth } from '../model/link.ts';
import { thermistorBank } from './thermistorBank.ts';
import type { World } from './world.ts';

export type WorldTruth = ThermistorBankTruth;

/** The world for a stored hidden truth. A new family is one file and one case here. */
export function createWorld(truth: WorldTruth): World {
  return thermistorBank(truth);
}
