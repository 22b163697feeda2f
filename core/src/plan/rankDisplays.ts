import type { DisplayPart } from '../model/part.ts';
import { UNITS } from '../units/index.ts';
import { powerCheck, priceCheck, surroundingsCheck } from './checks/shared.ts';
import { demandsOf, latency } from './demands.ts';
import { boardOf, planWith, type GadgetPlan } from './gadgetPlan.ts';
import { levelCrossing } from './levels.ts';
import { rankParts } from './rankParts.ts';
import { otherCost } from './otherCost.ts';
import { pinsMissing } from './pinsFit.ts';
import {
  atLeast,
  atMost,
  p,
  seconds,
  WEIGHTS,
  yesOrNo,
  type Candidate,
  type PartVerdict,
  type Weights,
} from './verdict.ts';
import { briefOfAsk } from './briefFor.ts';

/** Judges every display: room for the readings, refresh, sun and dust, pins, levels, current, price. */
export function rankDisplays(plan: GadgetPlan, weights: Weights = WEIGHTS): Candidate<DisplayPart>[] {
  return rankParts(plan, 'display', weights, (display) => [
    roomCheck(plan, display),
    refreshCheck(plan, display),
    pinCheck(plan, display),
    levelVerdict(plan, display),
    powerCheck(display, null, plan.brief, 1, plan.hookup.duty),
    surroundingsCheck(display, plan.brief, ['damp', 'dust', 'heat']),
    priceCheck(display, null, plan.brief, 1, 0, otherCost(plan, 'display')),
  ]);
}

/** What has no lag of its own to keep, such as the time of a race, is looked at within a few seconds. */
const GLANCE_S = 2;

/** Characters that the largest readings take: digits, sign, point, and the unit. */
export function charactersNeeded(plan: GadgetPlan): { cells: number; widest: number; readings: number } {
  const each = plan.sensing.flatMap(({ ask, channels }) => {
    // As many as let a step of a fifth of the tolerance be seen.
    const decimals = Math.max(0, Math.ceil(-Math.log10(ask.tolerance / 5)));
    const digits = Math.max(...[ask.low, ask.high].map((v) => v.toFixed(decimals).length));
    return channels.map(() => digits + 1 + UNITS[ask.unit].symbol.length);
  });
  return {
    cells: each.reduce((a, b) => a + b + 1, 0),
    widest: Math.max(0, ...each),
    readings: each.length,
  };
}

function roomCheck(plan: GadgetPlan, display: DisplayPart): PartVerdict {
  const { cells, widest, readings } = charactersNeeded(plan);
  const has = display.columns * display.rows;
  const wide = display.columns >= widest - 2;
  const state =
    has >= cells && display.columns >= widest ? 'pass' : wide && has * 2 >= cells ? 'tight' : 'fail';
  return atLeast({
    check: 'room',
    title: 'Room for the readings',
    state,
    value: has,
    limit: cells,
    unit: 'characters',
    sentence: `${display.columns} × ${display.rows} characters; ${readings} reading${readings === 1 ? ' needs' : 's need'} ${cells}, the widest ${widest}.`,
    arithmetic: `Digits for the range with decimals down to a fifth of the tolerance, a space and the unit${display.widthPx > 0 ? `; ${display.widthPx} × ${display.heightPx} pixels` : ''}. With half the room, readings can alternate.`,
    change:
      state === 'tight'
        ? 'Let the readings alternate.'
        : 'Choose a bigger display, or show fewer readings on it.',
  });
}

function refreshCheck(plan: GadgetPlan, display: DisplayPart): PartVerdict {
  // Someone looks at it: quicker than an eye follows is not needed.
  const allowed = Math.max(
    0.3,
    Math.min(
      ...plan.sensing.map(
        ({ ask }) =>
          demandsOf(briefOfAsk(plan.brief, ask)).find((d) => d.id === 'latency')?.value ?? GLANCE_S,
      ),
    ),
  );
  const told = latency(plan.gadget.sampleRateHz, 0, display.refreshS, allowed);
  return atMost({
    check: 'response',
    title: 'Refresh time',
    state: told.value <= allowed ? 'pass' : told.value <= 2 * allowed ? 'tight' : 'fail',
    value: told.value,
    limit: allowed,
    unit: 's',
    sentence: `Shows a reading ${seconds(told.value)} after it was taken; ${seconds(allowed)} allowed.`,
    arithmetic: `${told.sentence} Nobody can read faster than 0.3 s.`,
    change: 'Choose a display that refreshes faster.',
  });
}

function pinCheck(plan: GadgetPlan, display: DisplayPart): PartVerdict {
  const board = boardOf(plan);
  const missing = pinsMissing(planWith(plan, 'display', display), board);
  return yesOrNo({
    check: 'wiring',
    title: 'Pins',
    state: missing.length > 0 ? 'fail' : 'pass',
    sentence:
      missing.length > 0 ? `On the ${board.title}: ${missing[0]}` : `The ${board.title} has the pins for it.`,
    arithmetic:
      missing.join(' ') ||
      `Together with the other picks; connected via ${display.bus}${display.pinNeeds.length > 0 ? ` and ${display.pinNeeds.length} more pins` : ''}.`,
    change: 'Choose a display on a bus that is already in use, another board, or a pin expander.',
  });
}

function levelVerdict(plan: GadgetPlan, display: DisplayPart): PartVerdict {
  const board = boardOf(plan);
  const crossing = levelCrossing(board, display);
  return yesOrNo({
    check: 'level',
    title: 'Voltage levels',
    state: crossing ? (crossing.kind === 'harm' ? 'fail' : 'tight') : 'pass',
    hard: false,
    sentence: crossing?.sentence ?? `${p(display.logicV)} V logic matches the board.`,
    arithmetic: `Board: ${p(board.logicV)} V out, tolerates ${p(board.bearsV)} V. Display: tolerates ${p(display.bearsV)} V.`,
    change: 'Add a level shifter.',
  });
}
