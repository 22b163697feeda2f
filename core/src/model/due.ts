import { Type, type Static } from 'typebox';
import { Id, nullable, oneOf, strictObject } from './common.ts';

/** A reference or a calibration that is to be checked again. */
export const DueItem = strictObject({
  kind: oneOf(['reference', 'calibration'] as const),
  id: Id,
  title: Type.String(),
  /** What was done last, and when. */
  detail: Type.String(),
  /** Null for a reference. */
  gadgetId: nullable(Id),
  channelId: nullable(Id),
  /** The day from which it is overdue, such as 2026-04-30. */
  dueOn: Type.String({ format: 'date' }),
  overdue: Type.Boolean(),
});
export type DueItem = Static<typeof DueItem>;
