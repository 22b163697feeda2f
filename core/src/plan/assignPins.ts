import type { BoardPart, DisplayPart } from '../model/part.ts';
import { planWith, type GadgetPlan } from './gadgetPlan.ts';
import type { PinNeed, PinSolution } from './pinSolver.ts';
import { solveOn as solve } from './pinsFit.ts';
import { findPart, partsOf } from './shelf/index.ts';
import { rankBoards } from './rankBoards.ts';
import { lowerFirst } from '../words/index.ts';

/** A change that makes every part find its pins, with what it costs more. */
export interface PinsWayOut {
  readonly title: string;
  readonly extraCost: number;
  /** What to change: another part in a slot, a converter for an ask, or a further part. */
  readonly change:
    | { readonly kind: 'slot'; readonly slot: 'board' | 'display'; readonly partId: string }
    | { readonly kind: 'converter'; readonly askId: string; readonly converterId: string }
    | { readonly kind: 'extra'; readonly partId: string };
}

export interface PinPlan extends Omit<PinSolution, 'waysOut'> {
  readonly needs: readonly PinNeed[];
  readonly waysOut: readonly PinsWayOut[];
}

/** Pins of the plan's parts on its board: found, or the conflict with its ways out, cheapest first. */
export function assignPins(plan: GadgetPlan, board: BoardPart): PinPlan {
  const solved = solve(plan, board);
  const stuck = solved.unmet.length > 0;
  return { ...solved, waysOut: stuck ? waysOut(plan, board) : [] };
}

function waysOut(plan: GadgetPlan, board: BoardPart): PinsWayOut[] {
  const found: PinsWayOut[] = [];
  const free = { ...plan, hookup: { ...plan.hookup, pins: [] } };
  const expander = plan.parts.find((q) => q.id === 'pin-expander-16');
  if (expander) {
    const extras = [...plan.hookup.extras, { partId: expander.id, quantity: 1, owned: 0, secondHand: 1 }];
    if (solve({ ...free, hookup: { ...free.hookup, extras } }, board).unmet.length === 0)
      found.push({
        title: `Add a ${lowerFirst(expander.title)}`,
        extraCost: expander.price,
        change: { kind: 'extra', partId: expander.id },
      });
  }
  for (const sensing of plan.sensing) {
    if (!sensing.part || sensing.converter) continue;
    for (const converter of partsOf(plan.parts, 'converter')) {
      if (!converter.digitises || !converter.takes.some((t) => t === sensing.part!.signal)) continue;
      const changed = planWith(free, sensing.ask.id, sensing.part, converter);
      if (solve(changed, board).unmet.length > 0) continue;
      const pieces = changed.sensing.find((s) => s.ask.id === sensing.ask.id)!.converterPieces;
      found.push({
        title: `Read ${lowerFirst(sensing.ask.quantity)} with the ${lowerFirst(converter.title)}`,
        extraCost: converter.price * pieces,
        change: { kind: 'converter', askId: sensing.ask.id, converterId: converter.id },
      });
    }
  }
  for (const other of partsOf(plan.parts, 'display')) {
    if (!plan.display || other.id === plan.display.id || !showsAsMuch(other, plan.display)) continue;
    if (solve({ ...free, display: other }, board).unmet.length > 0) continue;
    found.push({
      title: `Use the display “${other.title}” instead`,
      extraCost: other.price - plan.display.price,
      change: { kind: 'slot', slot: 'display', partId: other.id },
    });
  }
  for (const { part: other, failed } of rankBoards(plan)) {
    if (other.id === board.id || failed || solve(free, other).unmet.length > 0) continue;
    found.push({
      title: `Use the board “${other.title}” instead`,
      extraCost: other.price - (findPart(plan.parts, 'board', board.id)?.price ?? 0),
      change: { kind: 'slot', slot: 'board', partId: other.id },
    });
  }
  return found.sort((a, b) => a.extraCost - b.extraCost);
}

const showsAsMuch = (a: DisplayPart, b: DisplayPart) =>
  a.rows >= b.rows || a.columns * a.rows >= b.columns * b.rows;
