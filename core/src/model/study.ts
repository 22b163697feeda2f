import { Type, type Static } from 'typebox';
import { Id, Instant, Name, Unit, nullable, oneOf, strictObject } from './common.ts';
import { ParamValue } from './line.ts';

const VerdictStates = oneOf(['pass', 'fail', 'not shown'] as const);

/** Where a row of evidence came from. */
export const StudySource = Type.Union([
  strictObject({ kind: Type.Literal('typed') }),
  /** From the gadget, as it read at that moment. */
  strictObject({ kind: Type.Literal('live') }),
  strictObject({ kind: Type.Literal('run'), recordingId: Id }),
]);
export type StudySource = Static<typeof StudySource>;

const rowFields = {
  id: Id,
  values: Type.Record(
    Type.String({ minLength: 1, maxLength: 40 }),
    Type.Union([Type.Number({ minimum: -1e15, maximum: 1e15 }), Type.String({ maxLength: 80 })]),
  ),
  from: StudySource,
  /** Why it does not count; null when it does. */
  excluded: nullable(Type.String({ minLength: 1, maxLength: 200 })),
};

export const StudyRowBody = strictObject(rowFields);
export type StudyRowBody = Static<typeof StudyRowBody>;

export const StudyEvidenceRow = strictObject({
  ...rowFields,
  keptAt: Instant,
  /** What the gadget read by when it was kept: another one, and the row tells of another gadget. */
  readBy: Type.String({ maxLength: 64 }),
});
export type StudyEvidenceRow = Static<typeof StudyEvidenceRow>;

/** A stretch of a run; null for its begin and its end. Runs are read anew by the line as it is, so they never go stale. */
export const StudyStretch = strictObject({
  recordingId: Id,
  fromS: nullable(Type.Number()),
  toS: nullable(Type.Number()),
});
export type StudyStretch = Static<typeof StudyStretch>;

const told = {
  title: Name,
  /** Who did it, and where; empty when nobody said. */
  by: Type.String({ maxLength: 80 }),
  place: Type.String({ maxLength: 80 }),
  settings: Type.Record(Type.String({ maxLength: 40 }), ParamValue),
};

export const NewStudy = strictObject({
  kind: Type.String({ minLength: 1, maxLength: 40 }),
  channelId: Id,
  /** A figure of the channel; null for its reading. */
  figureId: nullable(Id),
});
export type NewStudy = Static<typeof NewStudy>;

export const StudyBody = strictObject({
  ...told,
  rows: Type.Array(StudyRowBody, { maxItems: 2000 }),
  stretches: Type.Array(StudyStretch, { maxItems: 20 }),
});
export type StudyBody = Static<typeof StudyBody>;

export const Study = strictObject({
  id: Id,
  gadgetId: Id,
  version: Type.Integer({ minimum: 1 }),
  ...NewStudy.properties,
  ...told,
  rows: Type.Array(StudyEvidenceRow, { maxItems: 2000 }),
  stretches: Type.Array(StudyStretch, { maxItems: 20 }),
  createdAt: Instant,
  updatedAt: Instant,
});
export type Study = Static<typeof Study>;

const Axis = strictObject({
  label: Type.String(),
  unit: Type.String(),
  scale: oneOf(['linear', 'logarithmic', 'whole'] as const),
  /** What the whole numbers from 1 on stand for. */
  names: Type.Optional(Type.Array(Type.String())),
  /** Where the axis begins and ends whatever there is; null where that follows from what there is. */
  ends: Type.Optional(Type.Tuple([nullable(Type.Number()), nullable(Type.Number())])),
});

/** Facts and plots, as a study or a stretch of a run tells them. */
const drawn = {
  facts: Type.Array(strictObject({ title: Type.String(), text: Type.String() })),
  plots: Type.Array(
    strictObject({
      title: Type.String(),
      x: Axis,
      y: Axis,
      series: Type.Array(
        strictObject({
          label: Type.String(),
          x: Type.Array(nullable(Type.Number())),
          y: Type.Array(nullable(Type.Number())),
          style: oneOf(['points', 'line', 'limit', 'middle'] as const),
        }),
      ),
      allowed: nullable(Type.Tuple([Type.Number(), Type.Number()])),
    }),
  ),
};

/** How the readings of a stretch lie: how often each came, and which frequencies they are made of. */
export const ShapeAnswer = strictObject(drawn);
export type ShapeAnswer = Static<typeof ShapeAnswer>;

/** What a study comes to now. */
export const StudyCard = strictObject({
  state: VerdictStates,
  sentence: Type.String(),
  next: Type.String(),
  ...drawn,
  /** What it is about, as it is called now, and the unit of its readings. */
  about: Type.String(),
  unit: Unit,
  /** Rows that were read by another line or calibration than now. */
  stale: Type.Array(Id),
});
export type StudyCard = Static<typeof StudyCard>;

/** A study with what it comes to. */
export const JudgedStudy = strictObject({ study: Study, card: StudyCard });
export type JudgedStudy = Static<typeof JudgedStudy>;

/** Pairs of readings at the same moments: of the study's channel in one run, and of another channel in the same or another. */
export const StudyPairsBody = strictObject({
  recordingId: Id,
  other: strictObject({ recordingId: Id, channelId: Id }),
  everyS: Type.Number({ exclusiveMinimum: 0, maximum: 1e6 }),
});
export type StudyPairsBody = Static<typeof StudyPairsBody>;

export const StudyPairs = strictObject({
  pairs: Type.Array(
    strictObject({
      /** In the time of the study's own run. */
      timeS: Type.Number(),
      reference: Type.Number(),
      shown: Type.Number(),
    }),
  ),
});
export type StudyPairs = Static<typeof StudyPairs>;
