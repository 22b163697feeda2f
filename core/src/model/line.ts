import { Type, type Static } from 'typebox';
import { Id, Name, Unit, strictObject } from './common.ts';

export const ParamValue = Type.Union([
  Type.Number(),
  Type.String({ maxLength: 500 }),
  Type.Boolean(),
  Type.Array(Type.Number(), { maxItems: 1024 }),
]);
export type ParamValue = Static<typeof ParamValue>;

export const StageSpec = strictObject({
  id: Id,
  kind: Type.String({ minLength: 1, maxLength: 40 }),
  params: Type.Record(Type.String(), ParamValue),
  /** Standard uncertainty of a parameter as bought, in the parameter's own unit. */
  uncertainty: Type.Record(Type.String(), Type.Number({ minimum: 0 })),
  /** What makes a parameter be off, in the maker's words: those of one line with the same cause are off together. */
  cause: Type.Optional(Type.Record(Type.String(), Type.String({ minLength: 1, maxLength: 60 }))),
  off: Type.Boolean(),
});
export type StageSpec = Static<typeof StageSpec>;

const lineFields = {
  sources: Type.Array(strictObject({ column: Name, unit: Unit }), { minItems: 1, maxItems: 16 }),
  stages: Type.Array(StageSpec, { maxItems: 40 }),
};

/** A line as a channel keeps it. */
export const OwnLine = strictObject(lineFields);
export type OwnLine = Static<typeof OwnLine>;

/** Another channel's line, for a stage that takes what it reads: as it is felt, without what is taken off there. */
export const BesideLine = strictObject({
  channelId: Id,
  ...lineFields,
  slowestHz: Type.Optional(Type.Number({ exclusiveMinimum: 0 })),
  warmUpS: Type.Optional(Type.Number({ minimum: 0 })),
});
export type BesideLine = Static<typeof BesideLine>;

/** A line as it runs: with those of the channels that its stages over channels name. */
export const LineSpec = strictObject({
  ...lineFields,
  beside: Type.Optional(Type.Array(BesideLine, { maxItems: 15 })),
});
export type LineSpec = Static<typeof LineSpec>;

/** A change to one stage: what a calibration does to the line. */
export const LineEdit = strictObject({
  stageId: Id,
  /** Set when the stage is replaced by another kind. */
  kind: Type.Optional(Type.String({ minLength: 1, maxLength: 40 })),
  params: Type.Record(Type.String(), ParamValue),
});
export type LineEdit = Static<typeof LineEdit>;
