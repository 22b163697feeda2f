import { Type, type Static } from 'typebox';
import { Id, Instant, Name, Note, nullable, oneOf, strictObject } from './common.ts';
import { NowFigure } from './live.ts';
import { WatchSpec } from './watch.ts';

/**
 * How a gadget's runs are cut into trials: "run" the whole of each, "event" each event of a watch, "between" from an event of
 * one watch to the next of another, "marks" from mark to mark.
 */
export const TrialRule = strictObject({
  channelId: Id,
  how: oneOf(['run', 'event', 'between', 'marks'] as const),
  /** The watch whose events count, or the one that begins a trial; null for the others. */
  watchId: nullable(Id),
  /** The watch that ends a trial; null unless "between". */
  endWatchId: nullable(Id),
  /** The figure that trials are ranked by. */
  figureId: nullable(Id),
  /** Whether more of it is better. */
  more: Type.Boolean(),
});
export type TrialRule = Static<typeof TrialRule>;

const said = {
  /** What was tried: who, which, before or after. */
  label: Type.String({ maxLength: 40 }),
  note: Note,
  /** Why it does not count; null when it does. */
  excluded: nullable(Type.String({ minLength: 1, maxLength: 200 })),
};

/** What a maker says of a trial: kept by its moment in the run, so that it stays when the rule runs again. */
export const TrialNote = strictObject({
  recordingId: Id,
  /** Moment of the run that the note is about, s. */
  atS: Type.Number(),
  ...said,
});
export type TrialNote = Static<typeof TrialNote>;

export const TrialNoteBody = strictObject({
  /** Ends of the trial that it is about, in its run. */
  fromS: Type.Number(),
  toS: Type.Number(),
  /** Moment of the note that this one takes the place of: a rule that cuts elsewhere finds a note beside its trial; null for none. */
  replacesS: nullable(Type.Number()),
  ...said,
});
export type TrialNoteBody = Static<typeof TrialNoteBody>;

/** A stretch of a run that counts as one try, with what was made of it. */
export const Trial = strictObject({
  id: Type.String(),
  recordingId: Id,
  runName: Name,
  /** In its run, from 1. */
  number: Type.Integer({ minimum: 1 }),
  fromS: Type.Number(),
  toS: Type.Number(),
  /** When it began. */
  at: Instant,
  /** Still going on: its figures are those of now. */
  isOpen: Type.Boolean(),
  figures: Type.Array(NowFigure),
  /** Moment of what is said of it, s; null where nothing is. */
  saidAtS: nullable(Type.Number()),
  label: Type.String(),
  note: Note,
  excluded: nullable(Type.String()),
});
export type Trial = Static<typeof Trial>;

/** Asks for trials by a rule that is being tried; null by the rule that is kept. */
export const TrialsBody = strictObject({
  rule: nullable(TrialRule),
  /** What counts on the rule's channel, set otherwise than it is stored; left out for as it is. */
  watches: Type.Optional(Type.Array(WatchSpec, { maxItems: 6 })),
});
export type TrialsBody = Static<typeof TrialsBody>;

export const TrialsAnswer = Type.Union([
  strictObject({
    rule: nullable(TrialRule),
    trials: Type.Array(Trial),
    /** Notes whose trial the rule does not find any more. */
    lost: Type.Array(TrialNote),
    /** Why nothing can be cut; null when it can. */
    problem: nullable(Type.String()),
  }),
  strictObject({ share: Type.Number({ minimum: 0, maximum: 1 }) }),
]);
export type TrialsAnswer = Static<typeof TrialsAnswer>;
