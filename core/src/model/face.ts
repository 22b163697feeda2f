import { Type, type Static } from 'typebox';
import { Id, Name, nullable, oneOf, strictObject, Unit } from './common.ts';

/** What stands with the big figures of a starting layout: rows of the others, a picture of the reading, or what suits best. */
export const FaceLook = oneOf(['auto', 'rows', 'dial', 'bar', 'trend', 'rose'] as const);
export type FaceLook = Static<typeof FaceLook>;

/** Something on a face, placed in cells of the display's grid. */
export const FaceWidget = strictObject({
  id: Id,
  /** A widget kind. */
  kind: Type.String({ minLength: 1, maxLength: 20 }),
  /** What it shows; 'highest' follows whichever reads most, empty for none. */
  channelId: Type.String({ maxLength: 40 }),
  /** A figure of the channel in the place of what its needle shows. */
  figureId: nullable(Id),
  /** Its own words; empty for the name of what it shows. */
  text: Type.String({ maxLength: 40 }),
  x: Type.Integer({ minimum: 0, maximum: 400 }),
  y: Type.Integer({ minimum: 0, maximum: 400 }),
  width: Type.Integer({ minimum: 1, maximum: 400 }),
  height: Type.Integer({ minimum: 1, maximum: 400 }),
});
export type FaceWidget = Static<typeof FaceWidget>;

export const FacePage = strictObject({ name: Name, widgets: Type.Array(FaceWidget, { maxItems: 24 }) });
export type FacePage = Static<typeof FacePage>;

/** What a button of the gadget does to its face. */
export const FaceButton = oneOf(['none', 'page', 'unit', 'reset'] as const);
export type FaceButton = Static<typeof FaceButton>;

export const FaceSpec = strictObject({
  displayId: Id,
  /** The channel in big figures; 'highest' follows whichever reads most. */
  bigChannelId: Type.String({ maxLength: 40 }),
  /** Not there in faces that were kept before there was a choice. */
  look: Type.Optional(FaceLook),
  /** Laid out by hand; not there while the starting layout does. */
  pages: Type.Optional(Type.Array(FacePage, { minItems: 1, maxItems: 8 })),
  /** Pages turn by themselves so often, s; null or not there: by a button only. */
  turnS: Type.Optional(nullable(Type.Number({ minimum: 1, maximum: 3600 }))),
  /** Units that a button goes through, beside the reading's own. */
  units: Type.Optional(Type.Array(Unit, { maxItems: 6 })),
  buttons: Type.Optional(strictObject({ a: FaceButton, b: FaceButton })),
});
export type FaceSpec = Static<typeof FaceSpec>;
