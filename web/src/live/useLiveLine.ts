import { useMemo } from 'react';
import {
  compileLine,
  LineError,
  REASON,
  runLine,
  type CompiledLine,
  type LaneData,
} from '@lucky-needle/core/line';
import type { LineSpec } from '@lucky-needle/core/model';
import { useLive } from './useLive.ts';

export interface LiveLine {
  /** Null when the line cannot be compiled. */
  readonly line: CompiledLine | null;
  readonly error: LineError | null;
  readonly times: Float64Array;
  /** First column after each stage with its own times: index 0 raw, last the reading. */
  readonly stages: readonly (LaneData & { readonly times: Float64Array })[];
  /** Newest value after each stage; NaN when bad, empty without readings. */
  readonly newest: readonly number[];
  /** Newest raw value of every source. */
  readonly newestRaw: readonly number[];
  readonly newestReason: number;
}

/** The live readings of one channel through a line: every stage, as it would come out had the line always been so. */
export function useLiveLine(spec: LineSpec, sampleRateHz: number): LiveLine {
  const live = useLive();
  const compiled = useMemo(() => {
    try {
      return { line: compileLine(spec, { sampleRateHz }), error: null };
    } catch (error) {
      if (error instanceof LineError) return { line: null, error };
      throw error;
    }
  }, [spec, sampleRateHz]);
  return useMemo(() => {
    const columns = spec.sources.map((source) => live.columns.get(source.column));
    const raw = columns[0];
    const none = {
      ...compiled,
      times: new Float64Array(0),
      stages: [],
      newest: [],
      newestRaw: [],
      newestReason: REASON.missing,
    };
    if (!compiled.line || !raw || raw.length === 0 || columns.includes(undefined)) return none;
    const taps = [0, ...compiled.line.stages.map((_, k) => k + 1)];
    const block = {
      length: raw.length,
      times: live.times,
      lanes: columns.map((values) => ({ values: values!, reasons: new Uint8Array(raw.length) })),
    };
    const stages = runLine(compiled.line, block, taps).map(({ times, lanes }) => ({ times, ...lanes[0]! }));
    const reading = stages.at(-1)!;
    return {
      ...compiled,
      times: live.times,
      stages,
      newest: stages.map(({ values }) => values.at(-1) ?? Number.NaN),
      newestRaw: columns.map((values) => values!.at(-1)!),
      newestReason: reading.reasons.at(-1) ?? REASON.waiting,
    };
  }, [compiled, live.columns, live.times, spec]);
}
