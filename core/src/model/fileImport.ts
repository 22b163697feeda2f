import { Type, type Static } from 'typebox';
import { Id, Name, Unit, nullable, oneOf, strictObject } from './common.ts';
import { RowIssue } from './recording.ts';

/** A file that was sent to the bench, looked at and not yet brought in. */
export const Upload = strictObject({
  id: Id,
  name: Type.String(),
  bytes: Type.Number(),
  /** SHA-256. */
  checksum: Type.String(),
  /** How it is written, in words. */
  format: Type.String(),
  columns: Type.Array(strictObject({ name: Type.String(), unit: nullable(Unit) })),
  /** Where its time stands and in what, in words. */
  time: Type.String(),
  /** First rows: time in seconds, then a value for each column, null where there is none. */
  rows: Type.Array(strictObject({ timeS: Type.Number(), values: Type.Array(nullable(Type.Number())) })),
  /** From the first rows; null where there are too few. */
  sampleRateHz: nullable(Type.Number()),
  issues: Type.Array(RowIssue),
});
export type Upload = Static<typeof Upload>;

/** What an upload looks like for one gadget. */
export const UploadFor = strictObject({
  upload: Upload,
  /** For each column of the file the raw column that it most likely is; null for none. */
  matched: Type.Array(nullable(Type.String())),
  /** Runs that came from this very file. */
  known: Type.Array(strictObject({ id: Id, name: Type.String() })),
});
export type UploadFor = Static<typeof UploadFor>;

export const ImportBody = strictObject({
  gadgetId: Id,
  name: Name,
  /** Columns that are taken: their place in the file, and the name and unit that they get. */
  columns: Type.Array(strictObject({ at: Type.Integer({ minimum: 0 }), name: Name, unit: Unit }), {
    minItems: 1,
    maxItems: 64,
  }),
});
export type ImportBody = Static<typeof ImportBody>;

export const JOB_STATES = ['running', 'done', 'failed', 'cancelled'] as const;

/** Long work of the server, with how far it is. */
export const Job = strictObject({
  id: Id,
  title: Type.String(),
  state: oneOf(JOB_STATES),
  /** 0 to 1. */
  progress: Type.Number({ minimum: 0, maximum: 1 }),
  /** What it has come to so far, in words. */
  note: Type.String(),
  /** Id of what it made; null until done. */
  result: nullable(Id),
  /** Why it failed. */
  problem: nullable(strictObject({ detail: Type.String(), wayOut: Type.String() })),
});
export type Job = Static<typeof Job>;
