import { Type, type Static } from 'typebox';
import { Id, Name, nullable, strictObject } from './common.ts';
import { Channel } from './gadget.ts';
import { AlarmNow } from './alarm.ts';
import { NowFigure, NowReading, SeenEvent } from './live.ts';

/** What counts on one channel of a recording, and what is made of it. */
export const ChannelCount = strictObject({
  channelId: Id,
  name: Name,
  /** Why nothing can be counted; null when it can. */
  problem: nullable(Type.String()),
  /** The first events, as many as can be drawn. */
  events: Type.Array(SeenEvent),
  /** How many there are, with those that do not count. */
  count: Type.Integer(),
  figures: Type.Array(NowFigure),
});
export type ChannelCount = Static<typeof ChannelCount>;

/** Asks for a recording counted by a channel that is being tried; null counts by the channels as they are stored. */
export const CountBody = strictObject({ draft: nullable(Channel) });
export type CountBody = Static<typeof CountBody>;

/** The counts, or how much of working them out is done: then ask again. */
export const CountAnswer = Type.Union([
  strictObject({ channels: Type.Array(ChannelCount) }),
  strictObject({ share: Type.Number({ minimum: 0, maximum: 1 }) }),
]);
export type CountAnswer = Static<typeof CountAnswer>;

export const RecordingEvents = strictObject({
  channelId: Id,
  ...Type.Omit(ChannelCount, ['channelId', 'figures']).properties,
});
export const RecordingFigures = strictObject({
  channels: Type.Array(strictObject({ ...Type.Omit(ChannelCount, ['events', 'count']).properties })),
});
export type RecordingFigures = Static<typeof RecordingFigures>;

/** How the gadget's face and alarms stood at a moment of a run. */
export const FaceFrame = strictObject({
  timeS: Type.Number(),
  /** Why nothing is heard; null while it is, and in a run. */
  silent: nullable(Type.String()),
  channels: Type.Array(NowReading),
  alarms: Type.Array(AlarmNow),
  /** Of the channels that the face shows by frequency: sizes at whole multiples of a step, in the channel's unit by the root of Hz. */
  spectra: Type.Array(
    strictObject({ channelId: Id, stepHz: Type.Number(), size: Type.Array(Type.Number()) }),
  ),
});
export type FaceFrame = Static<typeof FaceFrame>;

/** A run as its face would have shown it, moment by moment; or how much of working it out is done: then ask again. */
export const FramesAnswer = Type.Union([
  strictObject({
    frames: Type.Array(FaceFrame),
    /** What was seen, by channel: the first events, as many as can be drawn. */
    events: Type.Array(strictObject({ channelId: Id, events: Type.Array(SeenEvent) })),
  }),
  strictObject({ share: Type.Number({ minimum: 0, maximum: 1 }) }),
]);
export type FramesAnswer = Static<typeof FramesAnswer>;
/** The moments themselves. */
export type Frames = Extract<FramesAnswer, { frames: unknown }>;
