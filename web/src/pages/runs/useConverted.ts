import { useEffect, useState } from 'react';
import { calibratedLine } from '@lucky-needle/core/calibrate';
import { compileLine } from '@lucky-needle/core/line';
import type { Recording } from '@lucky-needle/core/model';
import type { UnitId } from '@lucky-needle/core/units';
import { fetchWindow } from '../../api/fetchWindow.ts';
import type { BenchContext } from '../../app/useBench.ts';
import type { ReducedReading } from '../../workers/line.worker.ts';
import { lineWorker } from '../../workers/lineWorker.ts';

/** Samples that a look takes whole; a longer stretch comes thinned, and looking closer brings all of them. */
const MOST_SAMPLES = 200_000;
const POINTS = 2000;

export type Converted = readonly {
  readonly name: string;
  readonly unit: UnitId;
  readonly reading: ReducedReading;
}[];

export interface ConvertedRun {
  /** Null until the first look has come; then the last one, until the next has. */
  readonly converted: Converted | null;
  /** Samples that each pair of points stands for; 1 where all were taken. */
  readonly thinned: number;
  readonly error: string | null;
}

/**
 * A recording, or a stretch of it, through the lines of all channels that can read it.
 * @param stretch in the recording's own time, s; null for all of it
 */
export function useConverted(
  recording: Recording,
  { gadget, calibrations }: BenchContext,
  stretch: { readonly fromS: number; readonly toS: number } | null,
): ConvertedRun {
  const [state, setState] = useState<ConvertedRun>({ converted: null, thinned: 1, error: null });
  const [fromS, toS] = [stretch?.fromS, stretch?.toS];
  useEffect(() => {
    const abort = new AbortController();
    void (async () => {
      try {
        const wanted = fromS === undefined || toS === undefined ? null : { fromS, toS };
        const block = await fetchWindow(recording.id, MOST_SAMPLES, abort.signal, wanted);
        const rate = recording.sampleRateHz / (block.header.reducedBy > 1 ? block.header.reducedBy / 2 : 1);
        const converted: Converted[number][] = [];
        for (const channel of gadget.channels) {
          const raw = channel.line.sources.map(
            (s) => block.columns[block.header.columns.findIndex((c) => c.name === s.column)],
          );
          if (raw.includes(undefined)) continue;
          const { line } = calibratedLine(channel.line, channel.id, calibrations);
          const reading = await lineWorker().convert(
            line,
            rate,
            block.times,
            raw.map((column) => column!),
            POINTS,
          );
          if (abort.signal.aborted) return;
          const unit = compileLine(line, { sampleRateHz: rate }).outputs[0]!.unit;
          converted.push({ name: channel.name, unit, reading });
        }
        setState({ converted, thinned: block.header.reducedBy, error: null });
      } catch (error) {
        if (!abort.signal.aborted) setState({ converted: null, thinned: 1, error: (error as Error).message });
      }
    })();
    return () => abort.abort();
    // Cut anew, a recording keeps its id but not its samples.
  }, [
    recording.id,
    recording.sampleCount,
    recording.sampleRateHz,
    gadget.channels,
    calibrations,
    fromS,
    toS,
  ]);
  return state;
}
