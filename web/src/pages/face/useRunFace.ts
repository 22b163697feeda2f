import { useEffect, useMemo, useState } from 'react';
import { gravest } from '@lucky-needle/core/alarm';
import { compileLine, givesDirection, LineError, REASON, REASONS } from '@lucky-needle/core/line';
import type { AlarmNow, FaceFrame, Gadget, Recording } from '@lucky-needle/core/model';
import { briefFor, figureBrief, wholeLine } from '@lucky-needle/core/plan';
import { facesOfRun, type Frames } from '../../api/faceFrames.ts';
import { useBench } from '../../app/useBench.ts';
import type { StageReadings } from '../../live/liveClient.ts';
import { faceAlarm } from './faceAlarm.ts';
import type { FaceSource } from './faceSource.ts';
import type { ChannelReading } from './useFaceReadings.ts';

/** Moments of a run that are looked at. */
const FRAMES = 300;
/** So much of the past a trend shows, s. */
const DRAWN_S = 60;

export interface RunFace {
  readonly frames: Frames | null;
  /** How much of it is worked out. */
  readonly share: number;
  readonly trouble: string | null;
}

/** A run as its face would have shown it, once the server has worked it out. */
export function useRunFace(run: Recording | null): RunFace {
  const { gadget } = useBench();
  const [told, setTold] = useState<RunFace & { readonly of: string }>(NOTHING);
  const key = run ? `${run.id} ${gadget.version}` : '';
  useEffect(() => {
    if (!run) return;
    const abort = new AbortController();
    const tell = (part: Partial<RunFace>) =>
      abort.signal.aborted || setTold({ frames: null, share: 0, trouble: null, ...part, of: key });
    facesOfRun(run.id, FRAMES, abort.signal, (share) => tell({ share })).then(
      (frames) => tell({ frames }),
      (error: Error) => tell({ trouble: error.message }),
    );
    return () => abort.abort();
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return told.of === key ? told : NOTHING;
}

const NOTHING = { frames: null, share: 0, trouble: null, of: '' };

/** What a face can show of a run at one of its moments; null before it is worked out. */
export function useFaceOfRun({ frames }: RunFace, at: number): (FaceSource & { alarms: AlarmNow[] }) | null {
  const { gadget, calibrations } = useBench();
  const known = useMemo(
    () =>
      gadget.channels
        .filter((c) => c.line.stages.length > 0 || c.feed)
        .map((channel) => {
          const figure = channel.figures?.find((f) => f.id === channel.shows) ?? null;
          return {
            channel,
            name: figure ? `${channel.name}: ${figure.name}` : channel.name,
            brief: figure ? figureBrief(gadget, channel, figure) : briefFor(gadget, channel),
            isDirection: isDirection(gadget, channel, calibrations),
          };
        }),
    [gadget, calibrations],
  );
  return useMemo(() => {
    const frame = frames?.frames[at];
    if (!frames || !frame) return null;
    const before = frames.frames.slice(0, at + 1).filter((f) => f.timeS >= frame.timeS - DRAWN_S);
    const readings = known.flatMap(({ channel, ...rest }): ChannelReading[] => {
      const now = frame.channels.find((c) => c.channelId === channel.id);
      if (!now) return [];
      const { value, unit, uncertainty, decimals } = now;
      return [
        {
          id: channel.id,
          ...rest,
          unit,
          uncertainty,
          decimals,
          value: value ?? Number.NaN,
          reason: value === null ? reasonOf(now.reason) : REASON.ok,
          history: before.map((f) => valueOf(f, channel.id)),
        },
      ];
    });
    return { ...sourceOf(gadget, frames, frame), readings, alarms: frame.alarms };
  }, [frames, at, known, gadget]);
}

function sourceOf(gadget: Gadget, { events }: Frames, frame: FaceFrame): Omit<FaceSource, 'readings'> {
  return {
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
    newest: (): StageReadings | undefined => undefined,
    nowS: frame.timeS,
    silent: null,
    warming: null,
    alarm: faceAlarm(gadget.alarms ?? [], gravest(frame.alarms), frame.alarms),
  };
}

const reasonOf = (said: string | null): number => {
  const at = REASONS.findIndex((r) => r === said);
  return at > 0 ? at : REASON.waiting;
};

const valueOf = ({ channels }: FaceFrame, channelId: string) =>
  channels.find((c) => c.channelId === channelId)?.value ?? Number.NaN;

function isDirection(
  gadget: Gadget,
  channel: Gadget['channels'][number],
  calibrations: Parameters<typeof wholeLine>[2],
): boolean {
  try {
    const line = wholeLine(gadget, channel, calibrations);
    return givesDirection(compileLine(line, { sampleRateHz: gadget.sampleRateHz }).spec);
  } catch (error) {
    if (error instanceof LineError) return false;
    throw error;
  }
}
