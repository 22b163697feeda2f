import { Type, type Static } from 'typebox';
import { ReferenceInput } from './calibration.ts';
import { Evidence } from './evidence.ts';
import { Id, oneOf, strictObject } from './common.ts';

/** What is gathered: values of three columns together while it is turned, or what two columns count along a rule. */
export const GatheringKind = oneOf(['cloud', 'drag'] as const);
export type GatheringKind = Static<typeof GatheringKind>;

export const GatheringBody = strictObject({
  channelId: Id,
  kind: GatheringKind,
  /** "start" goes on where it was stopped; "forget" begins anew another time. */
  act: oneOf(['start', 'stop', 'forget'] as const),
});
export type GatheringBody = Static<typeof GatheringBody>;

/** What the server has gathered of a channel; it goes on with no page open. */
export const GatheringNow = strictObject({
  isOn: Type.Boolean(),
  rows: Type.Integer(),
  seconds: Type.Number(),
  /** Of a turn: the newest rows, thinned. */
  cloud: Type.Array(Type.Tuple([Type.Number(), Type.Number(), Type.Number()])),
  /** Of a drag: what each column has counted. */
  sums: Type.Array(Type.Number()),
});
export type GatheringNow = Static<typeof GatheringNow>;

const Shown = strictObject({
  value: Type.Number({ exclusiveMinimum: 0 }),
  uncertainty: Type.Number({ exclusiveMinimum: 0 }),
});

/** Evidence that the server takes from what it has heard in the last seconds. */
export const TakeBody = strictObject({
  channelId: Id,
  taking: Type.Union([
    strictObject({ kind: Type.Literal('rest') }),
    strictObject({ kind: Type.Literal('ac-middle') }),
    strictObject({ kind: Type.Literal('ac-lag') }),
    strictObject({ kind: Type.Literal('ac-scale'), volts: Shown, amperes: Shown }),
    strictObject({ kind: Type.Literal('bearing'), reference: ReferenceInput }),
  ]),
});
export type TakeBody = Static<typeof TakeBody>;

export const TakenEvidence = strictObject({ evidence: Evidence });
export type TakenEvidence = Static<typeof TakenEvidence>;
