import { Type, type Static } from 'typebox';
import { Id, Instant, Name, Note, Unit, nullable, oneOf, strictObject } from './common.ts';
import { AlarmRule } from './alarm.ts';
import { FaceSpec } from './face.ts';
import { OwnLine } from './line.ts';
import { NamedState } from './namedState.ts';
import { MEASURANDS } from './part.ts';
import { SURROUNDINGS } from './surroundings.ts';
import { FigureSpec, WatchSpec } from './watch.ts';

export const Place = strictObject({
  name: Name,
  elevationM: Type.Number({ minimum: -430, maximum: 9000, title: 'Elevation' }),
  /** Station pressure read off a barometer there, not reduced to sea level; null when unknown. */
  pressureHpa: nullable(Type.Number({ minimum: 300, maximum: 1100 })),
});
export type Place = Static<typeof Place>;

/** The fastest thing the needle must follow. */
export const FastestEvent = Type.Union([
  strictObject({ kind: Type.Literal('ramp'), ratePerS: Type.Number({ exclusiveMinimum: 0 }) }),
  strictObject({ kind: Type.Literal('pulse'), widthS: Type.Number({ exclusiveMinimum: 0 }) }),
  strictObject({ kind: Type.Literal('tone'), frequencyHz: Type.Number({ exclusiveMinimum: 0 }) }),
  /** An interval between two events, to be timed with this standard uncertainty by level. */
  strictObject({ kind: Type.Literal('crossing'), timingS: Type.Number({ exclusiveMinimum: 0 }) }),
  /** Marks that pass a sensor, so many a turn; the highest of the ask is in turns. */
  strictObject({ kind: Type.Literal('edges'), marks: Type.Integer({ minimum: 1, maximum: 10000 }) }),
]);
export type FastestEvent = Static<typeof FastestEvent>;

const range = {
  unit: Unit,
  low: Type.Number(),
  high: Type.Number(),
  tolerance: Type.Number({ exclusiveMinimum: 0 }),
};

/** One thing that the needle must show, for one channel or several alike. */
export const Ask = strictObject({
  id: Id,
  quantity: Name,
  ...range,
  fastest: FastestEvent,
  measurand: oneOf(MEASURANDS),
  /** What a sensor must feel for it, where that is not the shown quantity itself: acceleration for a count of strokes. */
  sensed: nullable(strictObject(range)),
});
export type Ask = Static<typeof Ask>;

export const Brief = strictObject({
  asks: Type.Array(Ask, { minItems: 1, maxItems: 8 }),
  power: oneOf(['battery', 'wall'] as const),
  /** How long it must run on one set of batteries, h; null when that does not matter. */
  enduranceH: nullable(Type.Number({ exclusiveMinimum: 0, maximum: 100000 })),
  surroundings: Type.Array(oneOf(SURROUNDINGS), { maxItems: SURROUNDINGS.length }),
  /** Budget for the whole gadget in the maker's own money; null when not set. */
  budget: nullable(Type.Number({ minimum: 0 })),
  /** What a ready-made one costs; null when there is none. */
  readyMade: nullable(Type.Number({ minimum: 0 })),
  note: Note,
});
export type Brief = Static<typeof Brief>;

/** One ask with what the whole brief says: what a channel is judged by. */
export type ChannelBrief = Ask & Omit<Brief, 'asks'>;

/** What stands in a slot: an ask's id for its sensors, or "board", "display", "supply", "sounder". */
export const Pick = strictObject({
  slot: Id,
  partId: Id,
  /** Converter between an analog sensor and the board; null for the board's own. */
  converterId: nullable(Id),
  reason: Note,
});
export type Pick = Static<typeof Pick>;

export const GADGET_SLOTS = ['board', 'display', 'supply', 'sounder'] as const;
export type GadgetSlot = (typeof GADGET_SLOTS)[number];

/** What the maker decides about the wiring; everything else follows from the parts. */
export const Hookup = strictObject({
  /** Pins set by hand, by need; the rest is found. */
  pins: Type.Array(
    strictObject({ needId: Type.String({ maxLength: 100 }), pin: Type.String({ maxLength: 20 }) }),
    {
      maxItems: 100,
    },
  ),
  busClockHz: Type.Number({ minimum: 1000, maximum: 5e6 }),
  /** Capacitance of the two-wire bus, F: some 10 pF a device and 100 pF a metre of cable. */
  busCapacitanceF: Type.Number({ exclusiveMinimum: 0, maximum: 1e-6 }),
  /** Regulators chosen by hand for a rail; the others are found. */
  regulators: Type.Array(
    strictObject({
      volts: Type.Number({ exclusiveMinimum: 0, maximum: 60 }),
      kind: oneOf(['none', 'linear', 'switching'] as const),
    }),
    { maxItems: 8 },
  ),
  /** Whether the board's radio, where it has one, is used. */
  radioOn: Type.Boolean(),
  /** Share of the time that the gadget is awake. */
  duty: Type.Number({ exclusiveMinimum: 0, maximum: 1 }),
  /** Further parts, and pieces that lie in the drawer or come second-hand. */
  extras: Type.Array(
    strictObject({
      partId: Id,
      quantity: Type.Integer({ minimum: 0, maximum: 1000 }),
      owned: Type.Integer({ minimum: 0, maximum: 1000 }),
      secondHand: Type.Number({ exclusiveMinimum: 0, maximum: 1 }),
    }),
    { maxItems: 100 },
  ),
});
export type Hookup = Static<typeof Hookup>;

/** Another line for the same channel, kept to be compared. */
export const LineVariant = strictObject({ name: Name, line: OwnLine });
export type LineVariant = Static<typeof LineVariant>;

export const Channel = strictObject({
  id: Id,
  askId: Id,
  name: Name,
  line: OwnLine,
  variants: Type.Optional(Type.Array(LineVariant, { maxItems: 12 })),
  /** Another channel that this one goes on from, behind one of its stages; its own sources are then not looked at. */
  feed: Type.Optional(nullable(strictObject({ channelId: Id, stageId: nullable(Id) }))),
  /** What counts as an event. */
  watches: Type.Optional(Type.Array(WatchSpec, { maxItems: 6 })),
  /** What is made of readings and events. */
  figures: Type.Optional(Type.Array(FigureSpec, { maxItems: 12 })),
  /** The figure that the needle shows; null for the reading itself. */
  shows: Type.Optional(nullable(Id)),
  /** Words for what the needle shows; of two that name a reading the first counts. */
  states: Type.Optional(Type.Array(NamedState, { maxItems: 8 })),
});
export type Channel = Static<typeof Channel>;

const gadgetFields = {
  name: Name,
  place: Place,
  brief: nullable(Brief),
  picks: Type.Array(Pick, { maxItems: 20 }),
  hookup: nullable(Hookup),
  /** Cautions that the maker has read and put away; the bring-up sheet lists them all the same. */
  cautionsRead: Type.Array(Id, { maxItems: 40 }),
  channels: Type.Array(Channel, { minItems: 1, maxItems: 16 }),
  face: nullable(FaceSpec),
  /** Run by the server on every reading, with a page open or not; not there while the maker has set none. */
  alarms: Type.Optional(Type.Array(AlarmRule, { maxItems: 60 })),
  /** Readings a second the gadget is meant to send. */
  sampleRateHz: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }),
};

export const Gadget = strictObject({
  id: Id,
  template: Id,
  version: Type.Integer({ minimum: 1 }),
  createdAt: Instant,
  updatedAt: Instant,
  ...gadgetFields,
});
export type Gadget = Static<typeof Gadget>;

/** What a maker may change; every field is optional and replaces that section whole. */
export const GadgetPatch = Type.Partial(strictObject(gadgetFields), {
  additionalProperties: false,
  minProperties: 1,
});
export type GadgetPatch = Static<typeof GadgetPatch>;

export const NewGadget = strictObject({ template: Id, name: Name });
export type NewGadget = Static<typeof NewGadget>;
