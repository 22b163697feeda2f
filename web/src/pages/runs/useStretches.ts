import { useEffect, useState } from 'react';
import { calibratedLine } from '@lucky-needle/core/calibrate';
import type { BeyondRule } from '@lucky-needle/core/detect';
import type { Recording } from '@lucky-needle/core/model';
import type { BenchContext } from '../../app/useBench.ts';
import type { FoundStretches, Stretch } from '../../workers/line.worker.ts';
import { lineWorker } from '../../workers/lineWorker.ts';
import { MOST_SAMPLES } from './useConverted.ts';

export interface StretchesWanted {
  readonly channelId: string;
  readonly rule: BeyondRule;
}

/** Where a channel's reading lies beyond a level, in the stretch of a recording that is looked at; null while not known. */
export function useStretches(
  recording: Recording,
  { gadget, calibrations }: BenchContext,
  within: Stretch | null,
  wanted: StretchesWanted | null,
): { readonly found: FoundStretches | null; readonly error: string | null } {
  const [state, setState] = useState<{ found: FoundStretches | null; error: string | null }>({
    found: null,
    error: null,
  });
  useEffect(() => {
    const channel = gadget.channels.find((c) => c.id === wanted?.channelId);
    if (!wanted || !channel) return setState({ found: null, error: null });
    let current = true;
    void (async () => {
      try {
        const { id: recordingId, sampleRateHz } = recording;
        const found = await lineWorker().stretches(
          { recordingId, sampleRateHz, samples: MOST_SAMPLES, stretch: within, within },
          calibratedLine(channel.line, channel.id, calibrations).line,
          wanted.rule,
        );
        if (current) setState({ found, error: null });
      } catch (error) {
        if (current) setState({ found: null, error: (error as Error).message });
      }
    })();
    return () => {
      current = false;
    };
  }, [recording, gadget.channels, calibrations, within, wanted]);
  return state;
}
