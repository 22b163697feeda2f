import { Type, type Static } from 'typebox';
import { Id, nullable, oneOf, strictObject } from './common.ts';

/** How heated elements stand now, for one airing that serves them all. */
export const AiringNow = strictObject({
  /** Why they cannot be kept as in clean air now, in words; null when they can. */
  waitingFor: nullable(Type.String()),
  /** How long they still warm up, s; null while no part is picked that would tell, 0 when they are warm. */
  coldS: nullable(Type.Number({ minimum: 0 })),
  elements: Type.Array(
    strictObject({
      channelId: Id,
      /** Mean of the raw codes that would be kept; null with too few. */
      counts: nullable(Type.Number()),
      /** What it shows at its own baseline, in its channel's unit; null where its curve does not tell. */
      level: nullable(Type.Number()),
    }),
  ),
});
export type AiringNow = Static<typeof AiringNow>;

/** Keeps clean air for all elements, and puts their baselines in use. */
export const NewAiring = strictObject({
  /** The air is that clean: a share of the level, either way. */
  within: Type.Number({ exclusiveMinimum: 0, maximum: 1 }),
});
export type NewAiring = Static<typeof NewAiring>;

/** What reaches the detector of a light path now, lamp by lamp. */
export const LampLight = strictObject({
  lamps: Type.Array(
    strictObject({
      channelId: Id,
      /** Mean of the newest seconds; null with too few readings. */
      counts: nullable(Type.Number()),
      /** By the line up to there, with the expanded uncertainty of the counts seen; null where no number can be told. */
      absorbance: nullable(strictObject({ value: Type.Number(), uncertainty: Type.Number({ minimum: 0 }) })),
      /** At the detector's end, or with so little light that its noise tells. */
      trouble: nullable(oneOf(['saturated', 'starved'] as const)),
    }),
  ),
  /** Why they cannot be kept as the dark and as the blank now, in words; null when they can. */
  notDark: nullable(Type.String()),
  notBlank: nullable(Type.String()),
});
export type LampLight = Static<typeof LampLight>;

export const NewLampLight = strictObject({ as: oneOf(['dark', 'blank'] as const) });
export type NewLampLight = Static<typeof NewLampLight>;
