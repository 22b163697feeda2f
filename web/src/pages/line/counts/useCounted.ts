import { useCallback, useMemo } from 'react';
import type {
  Channel,
  ChannelCount,
  Gadget,
  NowFigure,
  Recording,
  SeenEvent,
} from '@lucky-needle/core/model';
import { readoutSpec } from '@lucky-needle/core/plan';
import type { WatchedSpec } from '@lucky-needle/core/reading';
import { countRecording } from '../../../api/readings.ts';
import { useAsked } from '../../../app/useAsked.ts';
import type { BenchContext } from '../../../app/useBench.ts';
import { useShelf } from '../../../app/useShelf.ts';
import { useLive } from '../../../live/useLive.ts';
import { benchWorker } from '../../../workers/benchWorker.ts';
import { useNewest } from '../../../workers/useNewest.ts';

export interface Counted {
  readonly problem: string | null;
  readonly figures: readonly NowFigure[];
  readonly events: readonly SeenEvent[];
  /** How much of it is worked out; null when nothing is being worked out. */
  readonly share: number | null;
  readonly error: string | null;
}

interface Wanted {
  readonly bench: BenchContext;
  /** With what is being tried. */
  readonly channel: Channel;
  readonly isDraft: boolean;
  /** Null for the live link. */
  readonly recording: Recording | null;
}

const NOTHING: Counted = { problem: null, figures: [], events: [], share: null, error: null };

interface Question {
  readonly recordingId: string;
  readonly count: number;
  readonly draft: Channel | null;
}

const ask = (
  { recordingId, draft }: Question,
  signal: AbortSignal,
  told: (share: number) => void,
): Promise<ChannelCount[]> => countRecording(recordingId, { draft }, signal, told);

/** What counts on a channel, live or in a recording: as the server counts it, or a draft over the newest rows. */
export function useCounted({ bench, channel, isDraft, recording }: Wanted): Counted {
  const live = useLive();
  const counts = !!channel.watches?.length || !!channel.figures?.length;
  const tried = useTried(counts && isDraft && !recording ? bench : null, channel);
  const question = useMemo<Question | null>(
    () =>
      counts && recording
        ? { recordingId: recording.id, count: recording.sampleCount, draft: isDraft ? channel : null }
        : null,
    [counts, recording, isDraft, channel],
  );
  const asked = useAsked(question, ask);
  const served = live.counts.get(channel.id);
  return useMemo<Counted>(() => {
    if (!counts) return NOTHING;
    if (recording) {
      const found = asked.answer?.find((c) => c.channelId === channel.id);
      return { ...NOTHING, ...(found ?? {}), share: asked.share, error: asked.error };
    }
    const found = isDraft ? tried : served;
    return found ? { ...NOTHING, ...found } : NOTHING;
  }, [counts, recording, isDraft, tried, served, asked.answer, asked.share, asked.error, channel.id]);
}

interface Trial {
  readonly gadget: Gadget;
  readonly channelId: string;
  readonly spec: WatchedSpec;
  readonly times: Float64Array;
  readonly columns: readonly Float64Array[];
}

/** A draft over the newest rows, as often as a worker gets round to it. */
function useTried(bench: BenchContext | null, channel: Channel) {
  const { times, columns, lines } = useLive();
  const shelf = useShelf();
  const made = useMemo(() => {
    if (!bench) return null;
    const channels = bench.gadget.channels.map((c) => (c.id === channel.id ? channel : c));
    const gadget = { ...bench.gadget, channels };
    const rate = lines?.sampleRateHz ?? gadget.sampleRateHz;
    return { gadget, channelId: channel.id, spec: readoutSpec(gadget, bench.calibrations, shelf, rate) };
  }, [bench, channel, lines, shelf]);
  const input = useMemo<Trial | null>(() => {
    if (!made || times.length === 0) return null;
    const missing = new Float64Array(times.length).fill(Number.NaN);
    return { ...made, times, columns: made.spec.columns.map((name) => columns.get(name) ?? missing) };
  }, [made, times, columns]);
  const work = useCallback(
    ({ gadget, channelId, spec, ...rows }: Trial) =>
      benchWorker().tryCounts(gadget, channelId, spec, {
        times: rows.times.slice(),
        columns: rows.columns.map((c) => c.slice()),
      }),
    [],
  );
  return useNewest(input, work);
}
