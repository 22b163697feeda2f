import type { BoardPart } from '../model/part.ts';
import { neededRateHz } from '../prove/neededRate.ts';
import { resolutionCheck } from './checks/resolution.ts';
import { powerCheck, priceCheck, surroundingsCheck } from './checks/shared.ts';
import type { GadgetPlan } from './gadgetPlan.ts';
import { levelCrossing, sensorCrossing } from './levels.ts';
import { rankParts } from './rankParts.ts';
import { otherCost } from './otherCost.ts';
import { pinNeedsOf, wiredParts } from './pinNeeds.ts';
import { pinsMissing } from './pinsFit.ts';
import { railFor } from './rails.ts';
import { atLeast, p, WEIGHTS, yesOrNo, type Candidate, type PartVerdict, type Weights } from './verdict.ts';

/** Judges every board against the picks of the gadget: pins, host, converter, levels, power, surroundings, price. */
export function rankBoards(plan: GadgetPlan, weights: Weights = WEIGHTS): Candidate<BoardPart>[] {
  return rankParts(plan, 'board', weights, (board) => [
    pinCheck(plan, board),
    ...converterChecks(plan, board),
    levels(plan, board),
    supplyCheck(plan, board),
    powerCheck(board, null, plan.brief, 1, plan.hookup.duty),
    surroundingsCheck(board, plan.brief, ['damp', 'dust', 'sun', 'shaking', 'heat']),
    priceCheck(board, null, plan.brief, 1, 0, otherCost(plan, 'board')),
  ]);
}

function pinCheck(plan: GadgetPlan, board: BoardPart): PartVerdict {
  const base = { check: 'wiring' as const, title: 'Pins and host' };
  const device = wiredParts(plan).find((w) => w.part.bus === 'USB device');
  if (device && !board.usbHost)
    return yesOrNo({
      ...base,
      state: 'fail',
      sentence: `${device.title} needs a USB host, which this board is not.`,
      arithmetic: 'A USB device only answers a host.',
      change: 'Choose a sensor with another interface.',
    });
  const missing = pinsMissing(plan, board);
  const needs = pinNeedsOf(plan).length;
  return yesOrNo({
    ...base,
    state: missing.length > 0 ? 'fail' : 'pass',
    sentence:
      missing.length > 0
        ? missing[0]!
        : needs > 0
          ? needs === 1
            ? 'The one pin that the picks need is available.'
            : `All ${needs} pins that the picks need are available.`
          : 'No pick needs pins yet.',
    arithmetic:
      missing.join(' ') ||
      `${board.pins.length} pins, ${board.pins.filter((t) => t.includes('!')).length} of them reserved${board.radio && plan.hookup.radioOn ? '; pins that do not work while the radio is on are not used' : ''}.`,
    change: 'Use fewer wires: add a converter or a pin expander, or choose another display.',
  });
}

/** For sensors read by the board's own converter: its steps and its speed. The worst ask speaks. */
function converterChecks(plan: GadgetPlan, board: BoardPart): PartVerdict[] {
  const own = plan.sensing.filter((s) => s.part?.bus === 'analog' && !s.converter?.digitises);
  if (own.length === 0) return [];
  const worst = own
    .map((s) => ({ s, verdict: resolutionCheck(s.part!, board, s.converter, s.brief) }))
    .reduce((a, b) => (b.verdict.margin < a.verdict.margin ? b : a));
  const columns = own.reduce((n, s) => n + s.pieces * s.part!.columns, 0);
  const needed = columns * Math.max(...own.map((s) => neededRateHz(s.brief)));
  return [
    { ...worst.verdict, sentence: `${worst.s.ask.quantity}: ${worst.verdict.sentence}` },
    atLeast({
      check: 'rate',
      title: 'Conversion rate',
      state: board.analogHz >= needed ? 'pass' : 'fail',
      value: board.analogHz,
      limit: needed,
      unit: '/s',
      sentence: `${p(board.analogHz, 2)} conversions per second; ${p(needed, 2)} required for ${columns} column${columns > 1 ? 's' : ''}.`,
      arithmetic: `${columns} × ${p(needed / columns, 2)} readings per second, ${board.bits} bits over ${p(board.referenceV)} V.`,
      change: 'Add a separate converter between sensor and board.',
    }),
  ];
}

function levels(plan: GadgetPlan, board: BoardPart): PartVerdict {
  const crossings = wiredParts(plan).flatMap((w) => levelCrossing(board, w.part) ?? []);
  const analog = plan.sensing.flatMap((s) =>
    s.part ? (sensorCrossing(s.part, board, s.converter) ?? []) : [],
  );
  const all = [...crossings, ...analog];
  return yesOrNo({
    check: 'level',
    title: 'Voltage levels',
    state: all.some((c) => c.kind === 'harm') ? 'fail' : all.length > 0 ? 'tight' : 'pass',
    sentence: all[0]?.sentence ?? `${p(board.logicV)} V logic matches every pick.`,
    arithmetic:
      all.map((c) => c.sentence).join(' ') || `Outputs ${p(board.logicV)} V, tolerates ${p(board.bearsV)} V.`,
    hard: false,
    change: 'Add a level shifter, or choose a board with the same voltage as the parts.',
  });
}

/** Whether the supply that is picked can feed it. */
function supplyCheck(plan: GadgetPlan, board: BoardPart): PartVerdict {
  const { supply } = plan;
  const base = { check: 'power' as const, title: 'Supply', hard: false };
  if (!supply)
    return yesOrNo({
      ...base,
      state: 'pass',
      sentence: `Takes ${p(board.supplyLowV)} to ${p(board.supplyHighV)} V; no supply picked yet.`,
      arithmetic: `Its regulator can supply ${p(board.railA)} A to other parts.`,
    });
  const rail = railFor(board.logicV, supply, board);
  const lifted = rail.regulator.kind === 'switching';
  return yesOrNo({
    ...base,
    state: lifted ? 'tight' : 'pass',
    sentence: lifted
      ? `${supply.title} (${p(supply.volts)} V) is below the minimum of ${p(board.supplyLowV)} V: it needs a boost converter.`
      : `${supply.title} (${p(supply.volts)} V) can power it.`,
    arithmetic: `Supply of ${p(board.supplyLowV)} to ${p(board.supplyHighV)} V, or ${p(board.logicV)} V directly; logic at ${p(board.logicV)} V.`,
    change: 'Choose another supply, or a board that this one can power.',
  });
}
