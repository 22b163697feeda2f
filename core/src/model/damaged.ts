import { Type, type Static } from 'typebox';
import { nullable } from './common.ts';

/** A row of the database that is not what it should be, so that the API cannot answer it. */
export const DamagedRow = Type.Object({
  table: Type.String(),
  id: Type.String(),
  /** What it should be, such as "recording". */
  what: Type.String(),
  gadgetId: nullable(Type.String()),
  name: Type.String(),
  why: Type.String(),
});
export type DamagedRow = Static<typeof DamagedRow>;

/** How far a restore has come; null while there is none. */
export const RestoreProgress = Type.Object({
  doing: nullable(
    Type.Union([Type.Literal('receiving'), Type.Literal('checking'), Type.Literal('restoring')]),
  ),
  /** Bytes that have come in, or rows that have been looked at. */
  done: Type.Number(),
});
export type RestoreProgress = Static<typeof RestoreProgress>;
