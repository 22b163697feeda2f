import { useMemo } from 'react';
import {
  steadyLimits,
  fitPoint,
  steadyWindow,
  type SlopeEvidence,
  type SteadyLimits,
  type SteadyState,
} from '@lucky-needle/core/calibrate';
import { compileLine, LineError, type CompiledLine } from '@lucky-needle/core/line';
import { rangeIn, toleranceIn } from '@lucky-needle/core/plan';
import type { UnitId } from '@lucky-needle/core/units';
import type { ChannelContext } from '../../app/useBench.ts';
import { lowerBound } from '@lucky-needle/core/numerics';
import { useLive } from '../../live/useLive.ts';
import { benchWorker } from '../../workers/benchWorker.ts';
import { useNewest } from '../../workers/useNewest.ts';

/** More rows than these are judged aside. */
const MOST_HERE = 6000;
/** Between two such judgements. */
const PAUSE_MS = 200;
/** How far back such a judgement looks, in windows: how long it has stood still is told up to there. */
const LOOKED_BACK = 4;

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
  const evidence = useMemo(() => slopeEvidence(channel, unit, lastCode), [channel, unit, lastCode]);
  const limits = useMemo(
    () =>
      compiled && raw && raw.length > 0
        ? steadyLimits(compiled, raw.at(-1)!, toleranceIn(channel.brief, unit) ?? 1, evidence)
        : null,
    [compiled, raw, channel.brief, unit, evidence],
  );
  const isMany = live.times.length > MOST_HERE;
  const here = useMemo(() => {
    if (!limits || !raw || isMany) return null;
    const good = (i: number) =>
      Number.isFinite(raw[i]) && (lastCode === Infinity || (raw[i]! > 0 && raw[i]! < lastCode));
    return { ...steadyWindow(live.times, raw, good, limits), limits };
  }, [limits, raw, isMany, live.times, lastCode]);
  const input = useMemo(
    () => (isMany && limits && raw ? { times: live.times, raw, limits, lastCode } : null),
    [isMany, limits, raw, live.times, lastCode],
  );
  const aside = useNewest(input, judgeAside);
  return { compiled, unit, raw, state: isMany ? aside : here, lastCode };
}

/** What is known of a channel's slope: its calibration, else its points, else what is asked of it. */
export function slopeEvidence(
  { calibration, points, brief }: ChannelContext,
  unit: UnitId,
  lastCode: number,
): SlopeEvidence {
  const asked = brief && rangeIn(brief, unit);
  return {
    isTrued: calibration !== null,
    points: points.filter((p) => p.excluded === null).map((p) => fitPoint(p, unit)),
    range: asked && [asked.low, asked.high],
    lastCode,
  };
}

/** Readings of fast links are judged in a worker, as often as it gets round to it. */
async function judgeAside(input: {
  readonly times: Float64Array;
  readonly raw: Float64Array;
  readonly limits: SteadyLimits;
  readonly lastCode: number;
}) {
  const { limits, lastCode } = input;
  const from = lowerBound(input.times, input.times.at(-1)! - LOOKED_BACK * limits.windowS);
  await new Promise((done) => setTimeout(done, PAUSE_MS));
  const state = await benchWorker().steady(input.times.slice(from), input.raw.slice(from), limits, lastCode);
  return { ...state, limits };
}
