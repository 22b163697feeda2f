import { gravest } from '@lucky-needle/core/alarm';
import { compileLine, givesDirection, LineError, REASON, REASONS } from '@lucky-needle/core/line';
import type {
  AlarmNow,
  Calibration,
  Channel,
  ChannelBrief,
  FaceFrame,
  Frames,
  Gadget,
} from '@lucky-needle/core/model';
import { briefFor, figureBrief, shownFigure, wholeLine } from '@lucky-needle/core/plan';
import { faceAlarm } from './faceAlarm.ts';
import type { FaceSource } from './faceSource.ts';
import type { ChannelReading } from './useFaceReadings.ts';

/** So much of the past a trend shows, s. */
const DRAWN_S = 60;

/** A channel that a face can show, with what does not change from moment to moment. */
export interface ShownChannel {
  readonly channel: Channel;
  readonly name: string;
  readonly brief: ChannelBrief | null;
  readonly isDirection: boolean;
}

export type FrameFace = FaceSource & { readonly alarms: AlarmNow[] };

/** The channels of a gadget that read something. */
export const shownChannels = (gadget: Gadget, calibrations: readonly Calibration[]): ShownChannel[] =>
  gadget.channels
    .filter((c) => c.line.stages.length > 0 || c.feed)
    .map((channel) => {
      const figure = shownFigure(channel);
      return {
        channel,
        name: figure ? `${channel.name}: ${figure.name}` : channel.name,
        brief: figure ? figureBrief(gadget, channel, figure) : briefFor(gadget, channel),
        isDirection: isDirection(gadget, channel, calibrations),
      };
    });

/** What a face can show at a moment, as the server has worked it out. @param past frames up to it, oldest first */
export function faceOfFrame(
  gadget: Gadget,
  known: readonly ShownChannel[],
  frame: FaceFrame,
  events: Frames['events'],
  past: readonly FaceFrame[],
): FrameFace {
  const before = past.filter((f) => f.timeS >= frame.timeS - DRAWN_S);
  const readings = known.flatMap(({ channel, ...rest }): ChannelReading[] => {
    const now = frame.channels.find((c) => c.channelId === channel.id);
    if (!now) return [];
    const { value, unit, uncertainty, decimals, state } = now;
    return [
      {
        id: channel.id,
        ...rest,
        unit,
        uncertainty,
        decimals,
        state,
        value: value ?? Number.NaN,
        reason: value === null ? reasonOf(now.reason) : REASON.ok,
        history: before.map((f) => valueOf(f, channel.id)),
      },
    ];
  });
  return {
    readings,
    counts: new Map(
      frame.channels.map((c) => [
        c.channelId,
        {
          problem: null,
          worth: null,
          figures: c.figures,
          events: (events.find((e) => e.channelId === c.channelId)?.events ?? []).filter(
            (e) => e.endS <= frame.timeS,
          ),
        },
      ]),
    ),
    spectrum(channelId) {
      const own = frame.spectra.find((s) => s.channelId === channelId);
      return own ? { hz: own.size.map((_, k) => (k + 1) * own.stepHz), size: own.size } : null;
    },
    nowS: frame.silent === null ? frame.timeS : Number.NaN,
    silent: frame.silent,
    warming: null,
    alarm: faceAlarm(gadget.alarms ?? [], gravest(frame.alarms), frame.alarms),
    alarms: frame.alarms,
  };
}

const reasonOf = (said: string | null): number => {
  const at = REASONS.findIndex((r) => r === said);
  return at > 0 ? at : REASON.waiting;
};

const valueOf = ({ channels }: FaceFrame, channelId: string) =>
  channels.find((c) => c.channelId === channelId)?.value ?? Number.NaN;

function isDirection(gadget: Gadget, channel: Channel, calibrations: readonly Calibration[]): boolean {
  try {
    const line = wholeLine(gadget, channel, [...calibrations]);
    return givesDirection(compileLine(line, { sampleRateHz: gadget.sampleRateHz }).spec);
  } catch (error) {
    if (error instanceof LineError) return false;
    throw error;
  }
}
