import { Type, type Static } from 'typebox';
import { Id, Unit, nullable, oneOf, strictObject } from './common.ts';

export const AlarmKind = oneOf([
  'high',
  'low',
  'outside',
  'sector',
  'rise',
  'fall',
  'silent',
  'fault',
] as const);
export type AlarmKind = Static<typeof AlarmKind>;

/** What an alarm looks at, when it comes and goes, and what it drives. Levels are in `unit`. */
export const AlarmRule = strictObject({
  id: Id,
  name: Type.String({ minLength: 1, maxLength: 80 }),
  channelId: Id,
  /** A figure of the channel in the place of its readings. */
  figureId: nullable(Id),
  kind: AlarmKind,
  unit: Unit,
  /** For high, low, rise and fall; null for none. */
  caution: nullable(Type.Number()),
  limit: nullable(Type.Number()),
  /**
   * Ends of the band that is right, or of the sector that is not, clockwise. For high and low: it counts only between them, so
   * that an empty slot is no flat cell; null for no such end.
   */
  from: nullable(Type.Number()),
  to: nullable(Type.Number()),
  /** How far it must come back before it lets go. */
  hysteresis: Type.Number({ minimum: 0 }),
  /** Rise and fall: within so long. Silent: nothing heard for so long. Fault: stuck for so long; s. */
  windowS: Type.Number({ minimum: 0, maximum: 86_400 }),
  /** It comes when n of the newest m readings say so. */
  n: Type.Integer({ minimum: 1, maximum: 100 }),
  m: Type.Integer({ minimum: 1, maximum: 100 }),
  /** Once on it stays on for at least so long, s. */
  minimumOnS: Type.Number({ minimum: 0, maximum: 3600 }),
  /** Stays on until somebody has seen it. */
  latch: Type.Boolean(),
  lamp: oneOf(['none', 'amber', 'red'] as const),
  sounder: oneOf(['none', 'beeps', 'steady'] as const),
  /** The page of the face that is shown while it is on and nobody has seen it, from 1; null or not there for none. */
  page: Type.Optional(nullable(Type.Integer({ minimum: 1, maximum: 8 }))),
  /** Why it stands where it stands. */
  why: Type.String({ maxLength: 300 }),
});
export type AlarmRule = Static<typeof AlarmRule>;

/** Nothing is known; nothing is wrong; and the two steps of what is. */
export const AlarmLevel = oneOf(['unknown', 'quiet', 'caution', 'limit'] as const);
export type AlarmLevel = Static<typeof AlarmLevel>;

/** An alarm as it stands. */
export const AlarmNow = strictObject({
  ruleId: Id,
  level: AlarmLevel,
  /** On the gadget's clock; null before the first reading. */
  sinceS: nullable(Type.Number()),
  /** What it last looked at, in the rule's unit. */
  value: nullable(Type.Number()),
  /** Why nothing is known; empty otherwise. */
  reason: Type.String(),
  /** It would have let go, and is held until somebody has seen it. */
  isHeld: Type.Boolean(),
  isSeen: Type.Boolean(),
  /** Its sounder is silenced for so long from now, s; 0 when it is not. */
  silencedS: Type.Number(),
});
export type AlarmNow = Static<typeof AlarmNow>;

export const AlarmSilence = strictObject({ seconds: Type.Number({ minimum: 0, maximum: 86_400 }) });
export type AlarmSilence = Static<typeof AlarmSilence>;

/** How the alarms of a gadget stand, the gravest first told by `level`. */
export const GadgetAlarms = strictObject({
  /** Of all; unknown when nothing is heard, or nothing is watched. */
  level: AlarmLevel,
  items: Type.Array(AlarmNow),
});
export type GadgetAlarms = Static<typeof GadgetAlarms>;

/** What says when something truly was: nothing was; marks of a name; or what counts on a channel, such as a reference beside it. */
export const AlarmTruth = Type.Union([
  strictObject({ kind: Type.Literal('none') }),
  strictObject({ kind: Type.Literal('marks'), text: Type.String({ minLength: 1, maxLength: 120 }) }),
  strictObject({ kind: Type.Literal('watch'), channelId: Id, watchId: Id }),
]);
export type AlarmTruth = Static<typeof AlarmTruth>;

/** Tries an alarm on a run of which it is known when something truly was. */
export const AlarmTrialBody = strictObject({
  rule: AlarmRule,
  truth: AlarmTruth,
  /** An alarm within so long of the begin of what truly was, or while it lasts, is for it, s. */
  withinS: Type.Number({ exclusiveMinimum: 0, maximum: 86_400 }),
});
export type AlarmTrialBody = Static<typeof AlarmTrialBody>;

const tried = {
  caught: Type.Integer(),
  missed: Type.Integer(),
  falseAlarms: Type.Integer(),
  /** How late it came, in the middle; null where it caught none. */
  lateS: nullable(Type.Number()),
};

export const AlarmTrialResult = strictObject({
  /** How often it truly was. */
  events: Type.Integer(),
  /** How long it was watched while nothing was. */
  hours: Type.Number(),
  own: strictObject({ level: nullable(Type.Number()), ...tried }),
  /** It comes for nothing less often than this an hour, at 95 %; null where nothing was watched. */
  falsePerHourBelow: nullable(Type.Number()),
  levels: Type.Array(strictObject({ level: Type.Number(), ...tried })),
  /** The middle of the levels that catch the most with the fewest false alarms; null where nothing is caught. */
  proposed: nullable(
    strictObject({
      level: Type.Number(),
      low: Type.Number(),
      high: Type.Number(),
      caught: Type.Integer(),
      falseAlarms: Type.Integer(),
    }),
  ),
});
export type AlarmTrialResult = Static<typeof AlarmTrialResult>;

/** A result, or how much of the run is looked at: then ask again. */
export const AlarmTrialAnswer = Type.Union([AlarmTrialResult, strictObject({ share: Type.Number() })]);
export type AlarmTrialAnswer = Static<typeof AlarmTrialAnswer>;
