import { Type, type Static } from 'typebox';
import { Id, Name, nullable, oneOf, strictObject, Unit } from './common.ts';
import { GadgetAlarms } from './alarm.ts';
import { LineSpec } from './line.ts';
import { LinkStatus } from './link.ts';

/** Text messages on the live socket. Samples travel beside them as binary sample blocks. */
export const ClientMessage = strictObject({ type: Type.Literal('watch'), gadgetId: Id });
export type ClientMessage = Static<typeof ClientMessage>;

/** What the live bench of a gadget runs one channel with; "as bought" beside it where a calibration is in use. */
export const LiveChannel = strictObject({
  /** The channel's, with ":bought" behind it for the line without its calibration. */
  id: Type.String({ maxLength: 80 }),
  line: LineSpec,
  slowestHz: nullable(Type.Number()),
  warmUpS: Type.Number(),
  /** Why it cannot run; null when it does. */
  problem: nullable(Type.String()),
});
export type LiveChannel = Static<typeof LiveChannel>;

/** A figure as it stands. */
export const NowFigure = strictObject({
  id: Id,
  name: Name,
  /** Null while there is none; `reason` then says why. */
  value: nullable(Type.Number()),
  unit: Unit,
  /** Expanded (k = 2); null when it is not known. */
  uncertainty: nullable(Type.Number()),
  decimals: Type.Integer({ minimum: 0, maximum: 9 }),
  reason: nullable(Type.String()),
  /** The arithmetic, in words. */
  how: Type.String(),
  /** Moment that it belongs to, s; null for one of all the time since `sinceS`. */
  timeS: nullable(Type.Number()),
  /** First reading or last reset that it is made from, s. */
  sinceS: nullable(Type.Number()),
  /** What of the brief it is judged by, in its own unit; null for one that nobody asked for. */
  /** It stands on less than it is meant to as yet. */
  isSettling: Type.Optional(Type.Boolean()),
  tolerance: nullable(Type.Number()),
});
export type NowFigure = Static<typeof NowFigure>;

/** An event as it was found. */
export const SeenEvent = strictObject({
  watchId: Id,
  what: oneOf(['start', 'event'] as const),
  timeS: Type.Number(),
  endS: Type.Number(),
  /** The reading to draw it at; null for one that no reading was looked at for. */
  at: nullable(Type.Number()),
  value: nullable(Type.Number()),
  area: nullable(Type.Number()),
  uTimeS: nullable(Type.Number()),
  counted: Type.Boolean(),
  why: Type.String(),
});
export type SeenEvent = Static<typeof SeenEvent>;

/** Readings a gadget gives right now, worked out by the server whether a page is open or not. */
export const NowReading = strictObject({
  channelId: Id,
  name: Name,
  /** Null while there is none; `reason` then says why. */
  value: nullable(Type.Number()),
  unit: Unit,
  /** Expanded (k = 2); null when nothing is known of it. */
  uncertainty: nullable(Type.Number()),
  /** Places behind the point that the reading deserves. */
  decimals: Type.Integer({ minimum: 0, maximum: 9 }),
  reason: nullable(Type.String()),
  /** The word for it, such as "stopped" or "reversed", also where it gives no number; null where none names it. */
  state: nullable(Type.String()),
  /** When it was read, s on the gadget's clock; null before the first. */
  timeS: nullable(Type.Number()),
  /** Extrapolated: it lies beyond the points that the calibration in use rests on. */
  isBeyond: Type.Boolean(),
  /** The figure that `value` is; null where it is the reading. */
  shows: nullable(Id),
  /** What else is made of the readings. */
  figures: Type.Array(NowFigure),
});
export type NowReading = Static<typeof NowReading>;

/** A button of the bench is pressed, or the figures of a channel begin anew. */
export const PressBody = strictObject({ channelId: Id, watchId: Id });
export type PressBody = Static<typeof PressBody>;
export const ResetBody = strictObject({ channelId: Id });
export type ResetBody = Static<typeof ResetBody>;

/** Mean and scatter of live readings over a stretch; null with fewer than three good ones. */
export const LiveStretch = strictObject({
  unit: Unit,
  statistics: nullable(
    strictObject({
      n: Type.Integer(),
      bad: Type.Integer(),
      mean: Type.Number(),
      sd: Type.Number(),
      u: Type.Number(),
      seconds: Type.Number(),
    }),
  ),
  /** Time of the oldest reading that is still known, s; null without any. */
  knownFromS: nullable(Type.Number()),
});
export type LiveStretch = Static<typeof LiveStretch>;

export const ServerMessage = Type.Union([
  /** Comes before the readings of a bench that was set up; what was told before no longer holds. */
  strictObject({
    type: Type.Literal('bench'),
    gadgetId: Id,
    sampleRateHz: Type.Number(),
    channels: Type.Array(LiveChannel),
  }),
  /** Events as they become certain, and figures as they stand. */
  strictObject({
    type: Type.Literal('figures'),
    gadgetId: Id,
    channels: Type.Array(
      strictObject({
        channelId: Id,
        /** Why nothing can be counted; null when it can. */
        problem: nullable(Type.String()),
        /** Standard uncertainty of the newest reading where the readings tell it themselves; null where the line does. */
        worth: nullable(Type.Number()),
        figures: Type.Array(NowFigure),
        events: Type.Array(SeenEvent),
      }),
    ),
  }),
  strictObject({ type: Type.Literal('status'), gadgetId: Id, status: LinkStatus }),
  /** How the alarms stand. */
  strictObject({ type: Type.Literal('alarms'), gadgetId: Id, alarms: GadgetAlarms }),
  strictObject({ type: Type.Literal('changed'), gadgetId: Id, what: Type.String() }),
  strictObject({ type: Type.Literal('refused'), reason: Type.String() }),
]);
export type ServerMessage = Static<typeof ServerMessage>;
