import { useEffect, useId, useState } from 'react';
import { calibratedLine } from '@lucky-needle/core/calibrate';
import { compileLine } from '@lucky-needle/core/line';
import type { Recording } from '@lucky-needle/core/model';
import type { UnitId } from '@lucky-needle/core/units';
import type { BenchContext } from '../../app/useBench.ts';
import type { ReducedReading, Stretch, Wanted } from '../../workers/line.worker.ts';
import { lineWorker } from '../../workers/lineWorker.ts';

/** Samples that a look takes whole; a longer stretch comes thinned, and looking closer brings all of them. */
export const MOST_SAMPLES = 200_000;
/** Two a pixel of a wide plot. */
const POINTS = 1200;
/** So much more than the stretch is taken on either side, of its length: it can be moved along before the next look comes, and filters have come to rest where it begins. */
const BESIDE = 0.5;

export type Converted = readonly {
  /** The channel's. */
  readonly id: string;
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
  stretch: Stretch | null,
): ConvertedRun {
  const [state, setState] = useState<ConvertedRun>({ converted: null, thinned: 1, error: null });
  const key = useId();
  const [fromS, toS] = [stretch?.fromS, stretch?.toS];
  const { sampleRateHz, firstTimeS, lastTimeS } = recording;
  useEffect(() => {
    let current = true;
    void (async () => {
      try {
        const within = fromS === undefined || toS === undefined ? null : { fromS, toS };
        const beside = within ? (within.toS - within.fromS) * BESIDE : 0;
        const wanted: Wanted = {
          recordingId: recording.id,
          sampleRateHz,
          samples: MOST_SAMPLES,
          stretch: within && {
            fromS: Math.max(firstTimeS ?? 0, within.fromS - beside),
            toS: Math.min(lastTimeS ?? Infinity, within.toS + beside),
          },
          within,
        };
        const lines = gadget.channels.map((c) => ({
          id: c.id,
          line: calibratedLine(c.line, c.id, calibrations).line,
        }));
        const points = within ? (1 + 2 * BESIDE) * POINTS : POINTS;
        const look = await lineWorker().look(key, wanted, lines, points);
        if (!current || !look) return;
        const converted = look.readings.map(({ id, reading }) => ({
          id,
          name: gadget.channels.find((c) => c.id === id)!.name,
          unit: compileLine(lines.find((l) => l.id === id)!.line, { sampleRateHz }).outputs[0]!.unit,
          reading,
        }));
        setState({ converted, thinned: look.thinned, error: null });
      } catch (error) {
        if (current) setState({ converted: null, thinned: 1, error: (error as Error).message });
      }
    })();
    return () => {
      current = false;
      void lineWorker().forget(key);
    };
    // Cut anew, a recording keeps its id but not its samples.
  }, [
    key,
    recording.id,
    recording.sampleCount,
    sampleRateHz,
    firstTimeS,
    lastTimeS,
    gadget.channels,
    calibrations,
    fromS,
    toS,
  ]);
  return state;
}
