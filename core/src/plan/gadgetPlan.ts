import type { Ask, Brief, Channel, ChannelBrief, Gadget, Hookup } from '../model/gadget.ts';
import type {
  BoardPart,
  ConverterPart,
  DisplayPart,
  Part,
  SensorPart,
  SounderPart,
  SupplyPart,
} from '../model/part.ts';
import { channelsOf, sensedBrief } from './briefFor.ts';
import { findPart, partsOf } from './shelf/index.ts';

/** How one ask is sensed. */
export interface Sensing {
  readonly ask: Ask;
  /** Range and tolerance of what the sensor feels. */
  readonly brief: ChannelBrief;
  readonly channels: readonly Channel[];
  readonly part: SensorPart | null;
  readonly converter: ConverterPart | null;
  /** Sensors to buy: one piece may serve several channels. */
  readonly pieces: number;
  /** Converters to buy. */
  readonly converterPieces: number;
}

/** A gadget with its picks looked up on the shelf: what all of Pick and Hook-up is worked out from. */
export interface GadgetPlan {
  readonly gadget: Gadget;
  readonly brief: Brief;
  readonly sensing: readonly Sensing[];
  readonly board: BoardPart | null;
  readonly display: DisplayPart | null;
  readonly supply: SupplyPart | null;
  readonly sounder: SounderPart | null;
  readonly hookup: Hookup;
  readonly parts: readonly Part[];
  /** Picks whose part has left the shelf. */
  readonly lost: readonly string[];
}

/** The wiring before the maker has decided anything. */
export const PLAIN_HOOKUP: Hookup = {
  pins: [],
  busClockHz: 100e3,
  busCapacitanceF: 100e-12,
  regulators: [],
  radioOn: true,
  duty: 1,
  extras: [],
};

/** @returns null without a brief: there is nothing to plan for */
export function planOf(gadget: Gadget, parts: readonly Part[]): GadgetPlan | null {
  const { brief } = gadget;
  if (!brief) return null;
  const pickFor = (slot: string) => gadget.picks.find((k) => k.slot === slot);
  const sensing = brief.asks.map((ask): Sensing => {
    const pick = pickFor(ask.id);
    const channels = channelsOf(gadget, ask);
    const part = findPart(parts, 'sensor', pick?.partId);
    const converter = findPart(parts, 'converter', pick?.converterId);
    return {
      ask,
      brief: sensedBrief(brief, ask),
      channels,
      part,
      converter,
      ...piecesOf(part, converter, channels.length),
    };
  });
  const lost = gadget.picks.flatMap((k) => [
    ...(parts.some((q) => q.id === k.partId) ? [] : [k.partId]),
    ...(k.converterId === null || parts.some((q) => q.id === k.converterId) ? [] : [k.converterId]),
  ]);
  return {
    gadget,
    brief,
    sensing,
    board: findPart(parts, 'board', pickFor('board')?.partId),
    display: findPart(parts, 'display', pickFor('display')?.partId),
    supply: findPart(parts, 'supply', pickFor('supply')?.partId),
    sounder: findPart(parts, 'sounder', pickFor('sounder')?.partId),
    hookup: gadget.hookup ?? PLAIN_HOOKUP,
    parts,
    lost,
  };
}

/** How many sensors and converters so many channels take. */
function piecesOf(part: SensorPart | null, converter: ConverterPart | null, channels: number) {
  if (!part) return { pieces: 0, converterPieces: 0 };
  const pieces = Math.ceil(channels / part.perPart);
  return {
    pieces,
    converterPieces: converter ? Math.ceil((pieces * part.columns) / converter.inputs) : 0,
  };
}

/** The board that parts are judged on until one is picked: the first of the shelf. */
export const boardOf = (plan: GadgetPlan): BoardPart => plan.board ?? partsOf(plan.parts, 'board')[0]!;

/** The same plan with another part in a slot: what a candidate is judged by. */
export function planWith(
  plan: GadgetPlan,
  slot: string,
  part: Part,
  converter: ConverterPart | null = null,
): GadgetPlan {
  switch (part.kind) {
    case 'board':
      return { ...plan, board: part };
    case 'display':
      return { ...plan, display: part };
    case 'supply':
      return { ...plan, supply: part };
    case 'sounder':
      return { ...plan, sounder: part };
    case 'sensor':
      return {
        ...plan,
        sensing: plan.sensing.map((s) =>
          s.ask.id === slot ? { ...s, part, converter, ...piecesOf(part, converter, s.channels.length) } : s,
        ),
      };
    default:
      return plan;
  }
}
