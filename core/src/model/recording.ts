import { Type, type Static } from 'typebox';
import { Id, Instant, Name, Note, Unit, nullable, oneOf, strictObject } from './common.ts';

export const RecordedColumn = strictObject({ name: Name, unit: Unit });
export type RecordedColumn = Static<typeof RecordedColumn>;

/** A row or line that could not be read: kept as a coded, numbered remark beside the good data. */
export const RowIssue = strictObject({
  code: Type.String(),
  row: Type.Integer({ minimum: 0 }),
  text: Type.String(),
});
export type RowIssue = Static<typeof RowIssue>;

/** A stretch of samples that some recording owns, moved in time: what trimming, splitting and joining leave. */
export const Piece = strictObject({
  of: Id,
  /** In the owner's time; null for its begin and its end. */
  fromS: nullable(Type.Number()),
  toS: nullable(Type.Number()),
  shiftS: Type.Number(),
});
export type Piece = Static<typeof Piece>;

/** A moment worth finding again. */
export const Marker = strictObject({
  id: Id,
  timeS: Type.Number(),
  text: Type.String({ minLength: 1, maxLength: 120 }),
  /** A simulated world says what truly was: nobody's cut between two tries. */
  isTruth: Type.Optional(Type.Boolean()),
});
export type Marker = Static<typeof Marker>;

export const NewMarker = strictObject({
  /** Null for the newest reading of a recording that runs. */
  timeS: nullable(Type.Number()),
  text: Type.String({ minLength: 1, maxLength: 120 }),
});
export type NewMarker = Static<typeof NewMarker>;

export const RECORDING_STATES = ['recording', 'closed', 'recovered', 'imported'] as const;

export const Recording = strictObject({
  id: Id,
  gadgetId: Id,
  name: Name,
  state: oneOf(RECORDING_STATES),
  startedAt: Instant,
  endedAt: nullable(Instant),
  columns: Type.Array(RecordedColumn, { minItems: 1 }),
  sampleRateHz: Type.Number({ exclusiveMinimum: 0 }),
  sampleCount: Type.Integer({ minimum: 0 }),
  firstTimeS: nullable(Type.Number()),
  lastTimeS: nullable(Type.Number()),
  lostReadings: Type.Integer({ minimum: 0 }),
  issues: Type.Array(RowIssue),
  note: Note,
  /** Number of the calibration that was in use when it was made, by channel; channels without one are not named. */
  versions: Type.Record(Type.String(), Type.Integer({ minimum: 1 })),
  /** Why the run does not count; null when it does. */
  excluded: nullable(Type.String({ minLength: 1, maxLength: 200 })),
  /** What it is made of after a cut or a join; null for its own samples, whole. */
  pieces: nullable(Type.Array(Piece, { minItems: 1 })),
  markers: Type.Array(Marker),
  /** SHA-256 of the file that it was imported from. */
  sourceChecksum: nullable(Type.String()),
});
export type Recording = Static<typeof Recording>;

export const NewRecording = strictObject({ name: Name });
export type NewRecording = Static<typeof NewRecording>;

export const RecordingPatch = Type.Partial(
  strictObject({ name: Name, note: Note, excluded: nullable(Type.String({ minLength: 1, maxLength: 200 })) }),
  { additionalProperties: false, minProperties: 1 },
);
export type RecordingPatch = Static<typeof RecordingPatch>;

/** Keep only a stretch; null for all that there is. Nothing is lost: the rest comes back with null. */
export const TrimBody = strictObject({
  keep: nullable(strictObject({ fromS: Type.Number(), toS: Type.Number() })),
});
export type TrimBody = Static<typeof TrimBody>;

export const SplitBody = strictObject({ atS: Type.Number() });
export type SplitBody = Static<typeof SplitBody>;

export const JoinBody = strictObject({
  name: Name,
  ids: Type.Array(Id, { minItems: 2, maxItems: 100, uniqueItems: true }),
});
export type JoinBody = Static<typeof JoinBody>;

/** How long the disk lasts. */
export const DiskState = strictObject({
  freeBytes: Type.Number(),
  databaseBytes: Type.Number(),
  /** What is being recorded now fills a day; 0 when nothing is. */
  bytesPerDay: Type.Number(),
  /** Days until the disk is full at that; null when nothing is being recorded. */
  daysLeft: nullable(Type.Number()),
});
export type DiskState = Static<typeof DiskState>;
