import { useMemo } from 'react';
import { compileLine, LineError, REASON, runLine, type CompiledLine } from '@lucky-needle/core/line';
import type { LineSpec } from '@lucky-needle/core/model';
import { useLive } from './useLive.ts';

export interface LiveLine {
  /** Null when the line cannot be compiled. */
  readonly line: CompiledLine | null;
  readonly error: LineError | null;
  readonly times: Float64Array;
  /** After each stage: index 0 raw, last the reading. */
  readonly stages: readonly { readonly values: Float64Array; readonly reasons: Uint8Array }[];
  /** Newest value after each stage; NaN when bad, empty without readings. */
  readonly newest: readonly number[];
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
    const raw = live.columns.get(spec.sources[0]!.column);
    const none = {
      ...compiled,
      times: new Float64Array(0),
      stages: [],
      newest: [],
      newestReason: REASON.missing,
    };
    if (!compiled.line || !raw || raw.length === 0) return none;
    const taps = [0, ...compiled.line.stages.map((_, k) => k + 1)];
    const block = {
      length: raw.length,
      times: live.times,
      lanes: [{ values: raw, reasons: new Uint8Array(raw.length) }],
    };
    const out = runLine(compiled.line, block, taps);
    const last = raw.length - 1;
    return {
      ...compiled,
      times: live.times,
      stages: out.values.map((values, k) => ({ values, reasons: out.reasons[k]! })),
      newest: out.values.map((v) => v[last]!),
      newestReason: out.reasons.at(-1)![last]!,
    };
  }, [compiled, live.columns, live.times, spec]);
}
