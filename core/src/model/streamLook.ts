import { Type, type Static } from 'typebox';
import { Name, strictObject } from './common.ts';

/** Something that is wrong with raw rows. */
export const StreamFaultFound = strictObject({
  id: Type.String(),
  title: Type.String(),
  /** What was seen, in numbers. */
  seen: Type.String(),
  /** The one step that would confirm it. */
  test: Type.String(),
  weight: Type.Number(),
});

/** What is wrong with the raw rows of a channel, column by column, the most plainly shown first. */
export const StreamLook = strictObject({
  rows: Type.Integer(),
  seconds: Type.Number(),
  columns: Type.Array(strictObject({ name: Name, findings: Type.Array(StreamFaultFound) })),
});
export type StreamLook = Static<typeof StreamLook>;
