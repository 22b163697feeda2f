import { useMemo } from 'react';
import { reduceForPlot } from '@lucky-needle/core/formats';
import {
  hasFilterTraits,
  lineColumns,
  stageFaults,
  stageKind,
  type Advice,
  type StageFaults,
} from '@lucky-needle/core/line';
import type { ChannelBrief, LineSpec, LookLine, Recording } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';
import type { Curve } from '@lucky-needle/core/reading';
import { fetchWindow } from '../../api/fetchWindow.ts';
import { useLive } from '../../live/useLive.ts';
import type { LiveLine } from '../../live/useLiveLine.ts';
import { benchWorker } from '../../workers/benchWorker.ts';
import { useRecordingView } from './useRecordingView.ts';

/** How much of the live link is looked at. */
export const LIVE_S = 60;
/** The same where single events are to be told apart. */
export const CLOSE_S = 12;
/** Two a pixel of a wide plot. */
const POINTS = 1600;
/** Samples that advice is drawn from. */
const ADVISED = 20_000;

export interface LineData {
  /** The wanted stages' curves over seconds: before now for the live link, since its start for a recording. */
  readonly curves: readonly Curve[];
  /** Per stage, raw first; empty until there is something to look at. */
  readonly faults: readonly StageFaults[];
  readonly samples: number;
  /** What the curves belong to: a line that has changed meanwhile is still being worked on. */
  readonly doing: { readonly what: string; readonly share: number } | null;
  readonly error: string | null;
  cancel(): void;
  advise(brief: ChannelBrief): Promise<Advice | null>;
}

interface Wanted {
  readonly spec: LineSpec;
  readonly live: LiveLine;
  readonly sampleRateHz: number;
  /** Null for the live link. */
  readonly recording: Recording | null;
  /** What the recording is read by; null when the line does not run. */
  readonly lookLine: LookLine | null;
  readonly taps: readonly number[];
  /** Seconds since the recording's start. */
  readonly fromS: number;
  readonly toS: number;
  /** How much of the live link, s. */
  readonly liveS: number;
}

/** Readings of a line after chosen stages, from the live link or from a stretch of a recording. */
export function useLineData(wanted: Wanted): LineData {
  const { spec, live, sampleRateHz, recording, lookLine, taps, fromS, toS, liveS } = wanted;
  const { columns, times } = useLive();
  const startS = recording?.firstTimeS ?? 0;
  const shown = useRecordingView(recording, lookLine, taps, { fromS: startS + fromS, toS: startS + toS });
  const ofLive = useMemo(
    () => (recording ? null : liveData(live, taps, liveS)),
    [recording, live, taps, liveS],
  );
  const ofRecording = useMemo(() => {
    if (!recording || !shown.view) return null;
    const { curves, faults, samples } = shown.view;
    return {
      curves: curves.map((c) => ({ times: c.times.map((t) => t - startS), values: c.values })),
      faults,
      samples,
    };
  }, [recording, shown.view, startS]);
  const data = (recording ? ofRecording : ofLive) ?? { curves: [], faults: [], samples: 0 };
  return {
    ...data,
    doing: recording && shown.share !== null ? { what: 'Calculating readings', share: shown.share } : null,
    error: recording ? shown.error : null,
    cancel: shown.cancel,
    async advise(brief) {
      if (!recording) {
        const raw = lineColumns(spec).map((name) => columns.get(name));
        if (raw.includes(undefined)) return null;
        const newest = raw.map((c) => c!.slice(-ADVISED));
        return benchWorker().advise(spec, brief, sampleRateHz, {
          times: times.slice(-ADVISED),
          columns: newest,
        });
      }
      const to = Math.min(toS, fromS + ADVISED / recording.sampleRateHz);
      const block = await fetchWindow(recording.id, 2 * ADVISED, null, {
        fromS: startS + fromS,
        toS: startS + to,
      });
      const raw = lineColumns(spec).map(
        (name) => block.columns[block.header.columns.findIndex((c) => c.name === name)],
      );
      if (raw.includes(undefined)) return null;
      return benchWorker().advise(spec, brief, recording.sampleRateHz, {
        times: block.times.slice(),
        columns: raw.map((c) => c!.slice()),
      });
    },
  };
}

export function isFilter(kind: string): boolean {
  const found = stageKind(kind);
  return found !== undefined && hasFilterTraits(found);
}

function liveData({ line, times, stages }: LiveLine, taps: readonly number[], liveS: number) {
  if (!line || times.length === 0) return null;
  const newest = times[times.length - 1]!;
  const recent = (at: number) => {
    const stage = stages[at]!;
    const from = lowerBound(stage.times, newest - liveS);
    return { from, stage };
  };
  return {
    curves: taps
      .filter((tap) => tap < stages.length)
      .map((tap) => {
        const { from, stage } = recent(tap);
        const drawn = reduceForPlot(stage.times.subarray(from), stage.values.subarray(from), POINTS);
        return { times: drawn.times.map((t) => t - newest), values: drawn.values };
      }),
    faults: stageFaults(
      stages.map((_, k) => {
        const { from, stage } = recent(k);
        return { reasons: stage.reasons.subarray(from) };
      }),
    ),
    samples: times.length - recent(0).from,
  };
}
