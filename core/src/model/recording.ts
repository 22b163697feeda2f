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
});
export type Recording = Static<typeof Recording>;

export const NewRecording = strictObject({ name: Name });
export type NewRecording = Static<typeof NewRecording>;

export const RecordingPatch = Type.Partial(
  strictObject({ name: Name, note: Note, excluded: nullable(Type.String({ minLength: 1, maxLength: 200 })) }),
  { additionalProperties: false, minProperties: 1 },
);
export type RecordingPatch = Static<typeof RecordingPatch>;
