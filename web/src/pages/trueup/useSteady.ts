import { useMemo } from 'react';
import {
  steadyLimits,
  steadyWindow,
  type SteadyLimits,
  type SteadyState,
} from '@lucky-needle/core/calibrate';
import { compileLine, LineError, type CompiledLine } from '@lucky-needle/core/line';
import { toleranceIn } from '@lucky-needle/core/plan';
import type { UnitId } from '@lucky-needle/core/units';
import type { ChannelContext } from '../../app/useBench.ts';
import { useLive } from '../../live/useLive.ts';

export interface SteadyColumn {
  /** Null when the line cannot be compiled. */
  readonly compiled: CompiledLine | null;
  readonly unit: UnitId;
  readonly raw: Float64Array | undefined;
  readonly state: (SteadyState & { readonly limits: SteadyLimits }) | null;
  /** The converter's last code; columns that are no converter's have no end. */
  readonly lastCode: number;
}

/** Whether the newest raw readings of a channel stand still, judged by its brief. */
export function useSteady(channel: ChannelContext, sampleRateHz: number): SteadyColumn {
  const live = useLive();
  const compiled = useMemo(() => {
    try {
      return compileLine(channel.line, { sampleRateHz });
    } catch (error) {
      if (error instanceof LineError) return null;
      throw error;
    }
  }, [channel.line, sampleRateHz]);
  const raw = live.columns.get(channel.base.sources[0]!.column);
  // Only a converter's end codes mean that it cannot tell; other columns have no ends.
  const adc = channel.base.stages.find((s) => s.kind === 'adc');
  const lastCode = adc ? 2 ** Number(adc.params['bits']) - 1 : Infinity;
  const unit = compiled?.outputs[0]?.unit ?? 'degC';
  const state = useMemo(() => {
    if (!compiled || !raw || raw.length === 0) return null;
    const limits = steadyLimits(compiled, raw.at(-1)!, toleranceIn(channel.brief, unit) ?? 1);
    const good = (i: number) =>
      Number.isFinite(raw[i]) && (lastCode === Infinity || (raw[i]! > 0 && raw[i]! < lastCode));
    return { ...steadyWindow(live.times, raw, good, limits), limits };
  }, [compiled, raw, live.times, channel.brief, unit, lastCode]);
  return { compiled, unit, raw, state, lastCode };
}
