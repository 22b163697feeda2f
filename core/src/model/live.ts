import { Type, type Static } from 'typebox';
import { Id, Name, nullable, strictObject, Unit } from './common.ts';
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
  /** When it was read, s on the gadget's clock; null before the first. */
  timeS: nullable(Type.Number()),
});
export type NowReading = Static<typeof NowReading>;

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
  strictObject({ type: Type.Literal('status'), gadgetId: Id, status: LinkStatus }),
  strictObject({ type: Type.Literal('changed'), gadgetId: Id, what: Type.String() }),
  strictObject({ type: Type.Literal('refused'), reason: Type.String() }),
]);
export type ServerMessage = Static<typeof ServerMessage>;
