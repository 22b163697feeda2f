import type { BoardPart, BusKind, Part, PinTalent } from '../model/part.ts';
import type { GadgetPlan } from './gadgetPlan.ts';
import type { BoardPin, PinNeed } from './pinSolver.ts';

// Ranking asks for the same board's pins a hundred times over.
const pinsOf = new WeakMap<BoardPart, readonly BoardPin[]>();

/** The pins of a board, read from their short form. */
export function boardPins(board: BoardPart): readonly BoardPin[] {
  const known = pinsOf.get(board) ?? readPins(board);
  pinsOf.set(board, known);
  return known;
}

function readPins(board: BoardPart): BoardPin[] {
  return board.pins.map((text) => {
    const [, name, talents, reserved, conflict] =
      /^([^:]+): ([a-z0-9 -]+?)(?: !([a-z -]+))?(?: ~([a-z -]+))?$/.exec(text)!;
    return {
      name: name!,
      can: talents!.trim().split(' '),
      reserved: reserved?.trim() ?? null,
      ...(conflict ? { conflictsWith: conflict.trim() } : {}),
    };
  });
}

/** One part, or one of several alike, as it is wired. */
export interface WiredPart {
  /** Stable within the gadget: the slot and a count. */
  readonly id: string;
  readonly title: string;
  readonly part: Part;
  /** Channels it serves; empty for what serves the whole gadget. */
  readonly channelIds: readonly string[];
  /** Raw columns of its own that it gives. */
  readonly analogColumns: number;
  /** The converter that its analog output goes to; null for the board. */
  readonly into: string | null;
}

/** Every part of the plan that hangs on wires, sensors first. */
export function wiredParts(plan: GadgetPlan): WiredPart[] {
  const wired: WiredPart[] = [];
  for (const sensing of plan.sensing) {
    const { part, converter, channels, ask } = sensing;
    if (!part) continue;
    const many = sensing.pieces > 1;
    for (let i = 0; i < sensing.pieces; i++) {
      const served = channels.slice(i * part.perPart, (i + 1) * part.perPart);
      const [only] = served;
      wired.push({
        id: `${ask.id}.${i + 1}`,
        title: served.length === 1 && many ? `${only!.name}` : many ? `${part.title} ${i + 1}` : part.title,
        part,
        channelIds: served.map((c) => c.id),
        analogColumns: part.bus === 'analog' ? part.columns : 0,
        into: converter
          ? `${ask.id}.c${Math.min(sensing.converterPieces, Math.floor((i * part.columns) / converter.inputs) + 1)}`
          : null,
      });
    }
    if (!converter) continue;
    for (let i = 0; i < sensing.converterPieces; i++) {
      wired.push({
        id: `${ask.id}.c${i + 1}`,
        title: sensing.converterPieces > 1 ? `${converter.title} ${i + 1}` : converter.title,
        part: converter,
        channelIds: wired.filter((w) => w.into === `${ask.id}.c${i + 1}`).flatMap((w) => w.channelIds),
        analogColumns: converter.digitises
          ? 0
          : Math.min(converter.inputs, sensing.pieces * part.columns - i * converter.inputs),
        into: null,
      });
    }
  }
  for (const [slot, part] of [
    ['display', plan.display],
    ['sounder', plan.sounder],
  ] as const) {
    if (part) wired.push({ id: slot, title: part.title, part, channelIds: [], analogColumns: 0, into: null });
  }
  return [...wired, ...extraParts(plan)];
}

/** Further parts with wires of their own, such as a pin expander. */
function extraParts(plan: GadgetPlan): WiredPart[] {
  return plan.hookup.extras.flatMap(({ partId, quantity }) => {
    const part = plan.parts.find((q) => q.id === partId);
    const pickedAnyway = plan.gadget.picks.some((k) => k.partId === partId || k.converterId === partId);
    if (!part || pickedAnyway || part.bus === 'none' || quantity === 0) return [];
    return [{ id: `extra-${partId}`, title: part.title, part, channelIds: [], analogColumns: 0, into: null }];
  });
}

const SHARED: Partial<Record<BusKind, readonly (readonly [id: string, title: string, needs: PinTalent])[]>> =
  {
    I2C: [
      ['bus.i2c-data', 'I2C bus, data', 'i2c-data'],
      ['bus.i2c-clock', 'I2C bus, clock', 'i2c-clock'],
    ],
    SPI: [
      ['bus.spi-clock', 'SPI, clock', 'spi'],
      ['bus.spi-out', 'SPI, board to part', 'spi'],
      ['bus.spi-in', 'SPI, part to board', 'spi'],
    ],
    'one-wire': [['bus.one-wire', 'One-wire bus', 'digital']],
  };

const OWN: Partial<Record<BusKind, readonly PinTalent[]>> = {
  digital: ['digital'],
  edge: ['interrupt'],
  serial: ['serial', 'serial'],
};

/** What pins the plan's parts need: those of shared buses once, the others for each part. */
export function pinNeedsOf(plan: GadgetPlan): PinNeed[] {
  const byHand = new Map(plan.hookup.pins.map((q) => [q.needId, q.pin]));
  const needs: PinNeed[] = [];
  const add = (id: string, title: string, talent: PinTalent) => {
    const fixed = byHand.get(id);
    needs.push({ id, title, needs: talent, ...(fixed === undefined ? {} : { fixed }) });
  };
  const wired = wiredParts(plan);
  for (const { id, title, part, analogColumns, into } of wired) {
    const own = part.bus === 'analog' && into === null ? [] : (OWN[part.bus] ?? []);
    if (into === null) {
      for (let k = 0; k < analogColumns; k++)
        add(`${id}.a${k + 1}`, analogColumns > 1 ? `${title}, ${k + 1}` : title, 'analog');
    }
    const further = part.pinNeeds.filter((talent) => talent !== 'analog');
    [...own, ...further].forEach((talent, k) => {
      const alone = own.length + further.length === 1;
      add(`${id}.d${k + 1}`, alone ? title : `${title}, ${k + 1}`, talent);
    });
  }
  for (const bus of ['I2C', 'SPI', 'one-wire'] as const) {
    if (wired.some((w) => w.part.bus === bus)) for (const need of SHARED[bus]!) add(...need);
  }
  return needs;
}
