import type { BoardPart } from '../model/part.ts';
import type { GadgetPlan } from './gadgetPlan.ts';
import { boardPins, pinNeedsOf } from './pinNeeds.ts';
import { solvePins } from './pinSolver.ts';

/** Pins of a plan's parts on a board, with what is set by hand. */
export function solveOn(plan: GadgetPlan, board: BoardPart) {
  const needs = pinNeedsOf(plan);
  const pins = boardPins(board);
  const inUse = board.radio && plan.hookup.radioOn ? ['radio'] : [];
  const expanders = plan.hookup.extras.filter((e) => e.partId === 'pin-expander-16' && e.quantity > 0).length;
  // Pins of an expander are plain digital ones, too slow to be interrupts or a tone.
  const further = Array.from({ length: 16 * expanders }, (_, i) => ({
    name: `X${i + 1}`,
    can: ['digital'],
    reserved: null,
  }));
  const { waysOut: _none, ...solution } = solvePins([...pins, ...further], needs, inUse);
  return { ...solution, needs };
}

/** What is missing on a board, in words; empty when every need finds a pin. Pins set by hand for another board do not count. */
export function pinsMissing(plan: GadgetPlan, board: BoardPart): readonly string[] {
  return solveOn({ ...plan, hookup: { ...plan.hookup, pins: [] } }, board).unmet;
}
