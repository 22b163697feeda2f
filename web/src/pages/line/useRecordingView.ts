import { useMemo } from 'react';
import { faultsByStage, type StageFaults } from '@lucky-needle/core/line';
import type { LineSpec, LookBody, LookedAt, LookLine, Recording } from '@lucky-needle/core/model';
import { curveOf, lookAtRecording } from '../../api/readings.ts';
import { useAsked } from '../../app/useAsked.ts';

export interface RecordingView {
  readonly curves: readonly { readonly times: Float64Array; readonly values: Float64Array }[];
  readonly faults: readonly StageFaults[];
  /** Samples in the stretch. */
  readonly samples: number;
}

export interface ShownView {
  /** The newest finished view; the one before stays until the next is ready. */
  readonly view: RecordingView | null;
  /** How much of the next is done; null when nothing is being done. */
  readonly share: number | null;
  readonly error: string | null;
  cancel(): void;
}

interface Question {
  readonly recordingId: string;
  readonly count: number;
  readonly firstS: number | null;
  readonly body: LookBody;
}

const POINTS = 2000;
const WHOLE = 'whole';

const ask = async ({ recordingId, body }: Question, signal: AbortSignal, told: (share: number) => void) => {
  const looks = await lookAtRecording(recordingId, body, signal, told);
  return viewOf(looks);
};

/**
 * A stretch of a recording after chosen stages: what comes before a stage is a line of its own.
 * @param taps 0 raw, k after stage k of those that are switched on
 */
export function useRecordingView(
  recording: Recording | null,
  line: LookLine | null,
  taps: readonly number[],
  window: { readonly fromS: number; readonly toS: number },
): ShownView {
  const { fromS, toS } = window;
  const question = useMemo<Question | null>(
    () =>
      recording && line
        ? {
            recordingId: recording.id,
            // Cut anew, a recording keeps its id but not its samples.
            count: recording.sampleCount,
            firstS: recording.firstTimeS,
            body: {
              lines: [
                { ...line, id: WHOLE },
                ...taps.map((tap) => ({ ...line, id: `tap ${tap}`, line: upTo(line.line, tap) })),
              ],
              fromS,
              toS,
              points: POINTS,
            },
          }
        : null,
    [recording, line, taps, fromS, toS],
  );
  const { answer, share, error, cancel } = useAsked(question, ask);
  return { view: answer, share, error, cancel };
}

/** A line's first stages of those that are switched on. */
function upTo(line: LineSpec, count: number): LineSpec {
  return { ...line, stages: line.stages.filter((s) => !s.off).slice(0, count) };
}

function viewOf([whole, ...taps]: readonly LookedAt[]): RecordingView {
  return {
    curves: taps.map(curveOf),
    faults: faultsByStage(whole!.stages),
    samples: whole!.stages[0]?.length ?? 0,
  };
}
