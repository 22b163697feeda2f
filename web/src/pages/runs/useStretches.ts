import { useMemo } from 'react';
import type { BeyondRule } from '@lucky-needle/core/detect';
import type { Recording, StretchesAnswer, StretchesBody } from '@lucky-needle/core/model';
import { findStretches } from '../../api/readings.ts';
import { lookLine } from '../../app/lookLine.ts';
import { useAsked } from '../../app/useAsked.ts';
import type { BenchContext } from '../../app/useBench.ts';
import { useShelf } from '../../app/useShelf.ts';
import type { Stretch } from './useConverted.ts';

export interface StretchesWanted {
  readonly channelId: string;
  readonly rule: BeyondRule;
  /** Of a direction: the sector from the level clockwise to here; null for what lies beyond a level. */
  readonly untilDeg: number | null;
}

interface Question {
  readonly recordingId: string;
  readonly body: StretchesBody;
}

const ask = ({ recordingId, body }: Question, signal: AbortSignal) =>
  findStretches(recordingId, body, signal);

/** Where a channel's reading lies beyond a level, in the stretch of a recording that is looked at; null while not known. */
export function useStretches(
  recording: Recording,
  bench: BenchContext,
  within: Stretch | null,
  wanted: StretchesWanted | null,
): { readonly found: StretchesAnswer | null; readonly error: string | null } {
  const shelf = useShelf();
  const question = useMemo<Question | null>(() => {
    const channel = bench.gadget.channels.find((c) => c.id === wanted?.channelId);
    if (!wanted || !channel) return null;
    return {
      recordingId: recording.id,
      body: {
        line: lookLine(bench, channel, shelf, recording),
        fromS: within?.fromS ?? null,
        toS: within?.toS ?? null,
        ...wanted.rule,
        untilDeg: wanted.untilDeg,
      },
    };
  }, [bench, recording, shelf, within, wanted]);
  const { answer, error } = useAsked(question, ask);
  return { found: answer, error };
}
