import { Type, type Static } from 'typebox';
import { Id, strictObject } from './common.ts';

export const AlarmSpec = strictObject({
  caution: Type.Number(),
  limit: Type.Number(),
  /** How far the reading must fall back before an alarm lets go, in the brief's unit. */
  hysteresis: Type.Number({ minimum: 0 }),
  /** An alarm, once on, stays on for at least this long. */
  minimumOnS: Type.Number({ minimum: 0, maximum: 3600 }),
});
export type AlarmSpec = Static<typeof AlarmSpec>;

export const FaceSpec = strictObject({
  displayId: Id,
  /** The channel in big figures; 'highest' follows whichever reads most. */
  bigChannelId: Type.String({ maxLength: 40 }),
  alarm: AlarmSpec,
});
export type FaceSpec = Static<typeof FaceSpec>;
