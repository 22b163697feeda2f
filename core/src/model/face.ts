import { Type, type Static } from 'typebox';
import { Id, strictObject } from './common.ts';

export const FaceSpec = strictObject({
  displayId: Id,
  /** The channel in big figures; 'highest' follows whichever reads most. */
  bigChannelId: Type.String({ maxLength: 40 }),
});
export type FaceSpec = Static<typeof FaceSpec>;
