import { Type, type Static } from 'typebox';
import { Id, Instant, nullable, oneOf, strictObject } from './common.ts';

/** When runs of a gadget begin and end by themselves. The ends hold for runs that were begun by hand as well. */
export const RunPlan = strictObject({
  /** Name of the runs; with their date behind it. */
  name: Type.String({ maxLength: 60 }),
  /** When the next one begins; null for by hand only. */
  startAt: nullable(Instant),
  /** Again each day at that time. */
  daily: Type.Boolean(),
  /** After so many seconds of readings; null for never. */
  stopAfterS: nullable(Type.Number({ exclusiveMinimum: 0, maximum: 31 * 86400 })),
  /** As soon as a channel reads beyond a value, in the unit that its line ends in; null for never. */
  stopAt: nullable(
    strictObject({ channelId: Id, side: oneOf(['above', 'below'] as const), value: Type.Number() }),
  ),
});
export type RunPlan = Static<typeof RunPlan>;

export const RunPlanAnswer = strictObject({ plan: nullable(RunPlan) });
export type RunPlanAnswer = Static<typeof RunPlanAnswer>;
