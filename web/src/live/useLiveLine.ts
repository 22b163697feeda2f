import { useCallback, useMemo } from 'react';
import { compileLine, lineColumns, LineError, REASON, type CompiledLine } from '@lucky-needle/core/line';
import type { LineSpec } from '@lucky-needle/core/model';
import { benchWorker } from '../workers/benchWorker.ts';
import { useNewest } from '../workers/useNewest.ts';
import type { LiveSnapshot, StageReadings } from './liveClient.ts';
import { useLive } from './useLive.ts';

export interface LiveLine {
  /** Null when the line cannot be compiled. */
  readonly line: CompiledLine | null;
  readonly error: LineError | null;
  /** True where it is no line of the gadget's, but one that is being tried over the newest rows. */
  readonly isDraft: boolean;
  readonly times: Float64Array;
  /** First column after each stage with its own times: index 0 raw, last the reading. */
  readonly stages: readonly StageReadings[];
  /** Newest value after each stage; NaN when bad, empty without readings. */
  readonly newest: readonly number[];
  /** Newest raw value of every source. */
  readonly newestRaw: readonly number[];
  readonly newestReason: number;
}

/** Rows that a line is tried over. */
const TRIED_S = 60;

/**
 * The live readings of a channel through a line. Of the gadget's own line they are the server's; another one, such as a
 * draft, is run over the newest rows in a worker.
 */
export function useLiveLine(channelId: string, spec: LineSpec, sampleRateHz: number): LiveLine {
  const live = useLive();
  const { lines } = live;
  const key = useMemo(() => sameness(spec), [spec]);
  // As it is set up on the server, if it is one of its lines.
  const served = useMemo(
    () =>
      lines?.channels.find(
        (c) => (c.id === channelId || c.id.startsWith(`${channelId}:`)) && sameness(c.line) === key,
      ) ?? null,
    [lines, channelId, key],
  );
  const own = lines?.channels.find((c) => c.id === channelId) ?? null;
  const rateHz = lines?.sampleRateHz ?? sampleRateHz;
  const slowestHz = own?.slowestHz ?? undefined;
  const warmUpS = own?.warmUpS ?? 0;
  const compiled = useMemo(() => {
    try {
      return { line: compileLine(spec, { sampleRateHz: rateHz, slowestHz }), error: null };
    } catch (error) {
      if (error instanceof LineError) return { line: null, error };
      throw error;
    }
  }, [spec, rateHz, slowestHz]);
  const isDraft = lines !== null && served === null && compiled.line !== null;
  const tried = useTried(isDraft ? live : null, spec, rateHz, slowestHz, warmUpS);
  const stages = served ? live.readings.get(served.id) : isDraft ? tried : undefined;
  return useMemo(() => {
    const columns = spec.sources.map((source) => live.columns.get(source.column));
    const raw = columns[0];
    if (!compiled.line || !raw || raw.length === 0 || columns.includes(undefined))
      return {
        ...compiled,
        isDraft,
        times: new Float64Array(0),
        stages: [],
        newest: [],
        newestRaw: [],
        newestReason: REASON.missing,
      };
    const all: StageReadings[] = [
      { times: live.times, values: raw, reasons: allGood(raw.length) },
      ...compiled.line.stages.map((_, k) => stages?.[k] ?? NOTHING),
    ];
    return {
      ...compiled,
      isDraft,
      times: live.times,
      stages: all,
      newest: all.map(({ values }) => values.at(-1) ?? Number.NaN),
      newestRaw: columns.map((values) => values!.at(-1)!),
      newestReason: all.at(-1)!.reasons.at(-1) ?? REASON.waiting,
    };
  }, [compiled, isDraft, stages, live.columns, live.times, spec]);
}

/** What tells one line from another: how slow those beside it may be, and how they warm up, the server adds. */
const sameness = ({ sources, stages, beside }: LineSpec): string =>
  JSON.stringify([sources, stages, beside?.map((of) => [of.channelId, of.sources, of.stages])]);

/** As many zeros as wanted, never written to. */
function allGood(length: number): Float64Array {
  if (zeros.length < length) zeros = new Float64Array(2 * length);
  return zeros.subarray(0, length);
}
let zeros = new Float64Array(1024);

const NOTHING: StageReadings = {
  times: new Float64Array(0),
  values: new Float64Array(0),
  reasons: new Float64Array(0),
};

interface Trial {
  readonly spec: LineSpec;
  readonly rateHz: number;
  readonly slowestHz: number | undefined;
  readonly warmUpS: number;
  readonly times: Float64Array;
  readonly columns: readonly Float64Array[];
}

/** A line over the newest rows, as often as a worker gets round to it. */
function useTried(
  live: LiveSnapshot | null,
  spec: LineSpec,
  rateHz: number,
  slowestHz: number | undefined,
  warmUpS: number,
): readonly StageReadings[] | undefined {
  const input = useMemo<Trial | null>(() => {
    const columns = live ? lineColumns(spec).map((name) => live.columns.get(name)) : [];
    if (!live || live.times.length === 0 || columns.includes(undefined)) return null;
    return { spec, rateHz, slowestHz, warmUpS, times: live.times, columns: columns.map((c) => c!) };
  }, [live, spec, rateHz, slowestHz, warmUpS]);
  const work = useCallback(
    ({ times, columns, ...trial }: Trial) =>
      benchWorker().tryLine({
        ...trial,
        seconds: TRIED_S,
        times: times.slice(),
        columns: columns.map((c) => c.slice()),
      }),
    [],
  );
  return useNewest(input, work) ?? undefined;
}
