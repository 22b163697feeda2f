import { useMemo } from 'react';
import {
  adviseFilters,
  compileLine,
  hasFilterTraits,
  runLine,
  stageFaults,
  stageKind,
  type Advice,
  type StageFaults,
} from '@lucky-needle/core/line';
import type { ChannelBrief, LineSpec, Recording } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';
import { useLive } from '../../live/useLive.ts';
import type { LiveLine } from '../../live/useLiveLine.ts';
import { recordingWorker } from '../../workers/recordingWorker.ts';
import type { DrawnCurve } from '../../workers/recordingView.ts';
import { useRecordingView } from './useRecordingView.ts';

/** How much of the live link is looked at. */
export const LIVE_S = 60;

export interface LineData {
  /** The wanted stages' curves over seconds: before now for the live link, since its start for a recording. */
  readonly curves: readonly DrawnCurve[];
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
  readonly taps: readonly number[];
  /** Seconds since the recording's start. */
  readonly fromS: number;
  readonly toS: number;
}

/** Readings of a line after chosen stages, from the live link or from a stretch of a recording. */
export function useLineData({ spec, live, sampleRateHz, recording, taps, fromS, toS }: Wanted): LineData {
  const { columns, times } = useLive();
  const startS = recording?.firstTimeS ?? 0;
  const shown = useRecordingView(recording, spec, taps, { fromS: startS + fromS, toS: startS + toS });
  const ofLive = useMemo(() => (recording ? null : liveData(live, taps)), [recording, live, taps]);
  const ofRecording = useMemo(() => {
    if (!recording || !shown.view) return null;
    const { curves, faults, samples } = shown.view;
    return {
      curves: curves.map((c) => ({ times: c.times.map((t) => t - startS), values: c.values })),
      faults,
      samples,
    };
  }, [recording, shown.view, startS]);
  const data = ofLive ?? ofRecording ?? { curves: [], faults: [], samples: 0 };
  return {
    ...data,
    doing: recording ? shown.doing : null,
    error: recording ? shown.error : null,
    cancel: shown.cancel,
    async advise(brief) {
      if (recording) return recordingWorker().advise(spec, brief, startS + fromS, startS + toS);
      const conversions = { ...spec, stages: spec.stages.filter((s) => !isFilter(s.kind)) };
      const line = compileLine(conversions, { sampleRateHz });
      const lanes = line.sources.map((s) => columns.get(s.name));
      if (lanes.includes(undefined)) return null;
      const [reading] = runLine(line, {
        length: times.length,
        times,
        lanes: lanes.map((values) => ({ values: values!, reasons: new Uint8Array(times.length) })),
      });
      return adviseFilters(reading!.lanes[0]!.values, line.outputRateHz, brief, line.outputs[0]!.unit);
    },
  };
}

export function isFilter(kind: string): boolean {
  const found = stageKind(kind);
  return found !== undefined && hasFilterTraits(found);
}

function liveData({ line, times, stages }: LiveLine, taps: readonly number[]) {
  if (!line || times.length === 0) return null;
  const newest = times[times.length - 1]!;
  const recent = (at: number) => {
    const column = stages[at]!;
    const from = lowerBound(column.times, newest - LIVE_S);
    return { from, column };
  };
  return {
    curves: taps
      .filter((tap) => tap < stages.length)
      .map((tap) => {
        const { from, column } = recent(tap);
        return { times: column.times.slice(from).map((t) => t - newest), values: column.values.slice(from) };
      }),
    faults: stageFaults(
      stages.map((_, k) => {
        const { from, column } = recent(k);
        return { reasons: column.reasons.subarray(from) };
      }),
    ),
    samples: times.length - recent(0).from,
  };
}
