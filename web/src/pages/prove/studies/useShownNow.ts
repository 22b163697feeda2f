import { useMemo } from 'react';
import type { Study } from '@lucky-needle/core/model';
import { instrumentFor, type InstrumentBeside } from '@lucky-needle/core/references';
import type { UnitId } from '@lucky-needle/core/units';
import type { ChannelContext } from '../../../app/useBench.ts';
import { useLiveOf } from '../../../live/useLive.ts';
import { useLiveLine } from '../../../live/useLiveLine.ts';

/** What the gadget shows of a study's reading or figure now; NaN while there is nothing. */
export function useShownNow(study: Study, channel: ChannelContext, sampleRateHz: number): number {
  const live = useLiveLine(study.channelId, channel.line, sampleRateHz);
  const counts = useLiveOf((l) => l.counts);
  if (study.figureId === null) return live.isDraft ? Number.NaN : (live.newest.at(-1) ?? Number.NaN);
  return counts.get(study.channelId)?.figures.find((f) => f.id === study.figureId)?.value ?? Number.NaN;
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
