import { useMemo } from 'react';
import type { ChannelCount, Gadget, Recording } from '@lucky-needle/core/model';
import { countRecording } from '../../api/readings.ts';
import { useAsked } from '../../app/useAsked.ts';

interface Question {
  readonly recordingId: string;
  readonly count: number;
  readonly markers: number;
  /** The counts change with the gadget. */
  readonly version: number;
}

const ask = ({ recordingId }: Question, signal: AbortSignal, told: (share: number) => void) =>
  countRecording(recordingId, { draft: null }, signal, told);

/** What counts in a run, by the channels as they are stored; nothing is asked where nothing counts. */
export function useCounts(recording: Recording, gadget: Gadget) {
  const counts = gadget.channels.some((c) => !!c.watches?.length || !!c.figures?.length);
  const question = useMemo<Question | null>(
    () =>
      counts && recording.sampleCount > 0
        ? {
            recordingId: recording.id,
            count: recording.sampleCount,
            markers: recording.markers.length,
            version: gadget.version,
          }
        : null,
    [counts, recording.id, recording.sampleCount, recording.markers.length, gadget.version],
  );
  return useAsked<Question, ChannelCount[]>(question, ask);
}
