import { Type, type Static } from 'typebox';
import { Id, Instant, Name, Note, Unit, nullable, oneOf, strictObject } from './common.ts';
import { FaceSpec } from './face.ts';
import { LineSpec } from './line.ts';

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
]);
export type FastestEvent = Static<typeof FastestEvent>;

export const SURROUNDINGS = ['sun', 'damp', 'heat', 'shaking', 'magnets', 'dust'] as const;

export const Brief = strictObject({
  quantity: Name,
  unit: Unit,
  low: Type.Number(),
  high: Type.Number(),
  tolerance: Type.Number({ exclusiveMinimum: 0 }),
  fastest: FastestEvent,
  power: oneOf(['battery', 'wall'] as const),
  surroundings: Type.Array(oneOf(SURROUNDINGS), { maxItems: SURROUNDINGS.length }),
  /** Budget for the whole gadget in the maker's own money; null when not set. */
  budget: nullable(Type.Number({ minimum: 0 })),
  note: Note,
});
export type Brief = Static<typeof Brief>;

export const Pick = strictObject({ partId: Id, reason: Note });
export type Pick = Static<typeof Pick>;

export const Hookup = strictObject({
  boardId: Id,
  displayId: nullable(Id),
  pins: Type.Array(strictObject({ channelId: Id, pin: Type.String({ maxLength: 20 }) })),
});
export type Hookup = Static<typeof Hookup>;

export const Channel = strictObject({ id: Id, name: Name, line: LineSpec });
export type Channel = Static<typeof Channel>;

const gadgetFields = {
  name: Name,
  place: Place,
  brief: nullable(Brief),
  pick: nullable(Pick),
  hookup: nullable(Hookup),
  channels: Type.Array(Channel, { minItems: 1, maxItems: 16 }),
  face: nullable(FaceSpec),
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
