import { useMemo } from 'react';
import type { Study } from '@lucky-needle/core/model';
import { instrumentFor, type InstrumentBeside } from '@lucky-needle/core/references';
import { readingDecimals, type UnitId } from '@lucky-needle/core/units';
import type { ChannelContext } from '../../../app/useBench.ts';
import { useLiveOf } from '../../../live/useLive.ts';
import { useLiveLine } from '../../../live/useLiveLine.ts';

export interface ShownNow {
  /** NaN while there is nothing. */
  readonly value: number;
  /** Places behind the point that are worth reading: one more than is shown. Null where nobody said what is allowed. */
  readonly decimals: number | null;
}

/** What the gadget shows of a study's reading or figure now. */
export function useShownNow(study: Study, channel: ChannelContext, sampleRateHz: number): ShownNow {
  const live = useLiveLine(study.channelId, channel.line, sampleRateHz);
  const counts = useLiveOf((l) => l.counts);
  if (study.figureId === null) {
    const tolerance = channel.brief?.tolerance ?? null;
    return {
      value: live.isDraft ? Number.NaN : (live.newest.at(-1) ?? Number.NaN),
      decimals: tolerance === null ? null : readingDecimals(null, tolerance) + 1,
    };
  }
  const figure = counts.get(study.channelId)?.figures.find((f) => f.id === study.figureId);
  return { value: figure?.value ?? Number.NaN, decimals: figure ? figure.decimals + 1 : null };
}

/** An instrument on the link that reads the same quantity, in the unit that is wanted. */
export function useBeside(unit: UnitId, { base }: ChannelContext): InstrumentBeside | null {
  const instruments = useLiveOf((l) => l.status?.instruments);
  return useMemo(
    () =>
      instrumentFor(
        instruments ?? [],
        unit,
        base.sources.map((s) => s.column),
      ),
    [instruments, unit, base],
  );
}
