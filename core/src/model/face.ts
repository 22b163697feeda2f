import { Type, type Static } from 'typebox';
import { Id, oneOf, strictObject } from './common.ts';

/** What stands with the big figures: rows of the others, a picture of the reading, or what suits best. */
export const FaceLook = oneOf(['auto', 'rows', 'dial', 'bar', 'trend', 'rose'] as const);
export type FaceLook = Static<typeof FaceLook>;

export const FaceSpec = strictObject({
  displayId: Id,
  /** The channel in big figures; 'highest' follows whichever reads most. */
  bigChannelId: Type.String({ maxLength: 40 }),
  /** Not there in faces that were kept before there was a choice. */
  look: Type.Optional(FaceLook),
});
export type FaceSpec = Static<typeof FaceSpec>;
