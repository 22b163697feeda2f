import { useMemo } from 'react';
import type { Study } from '@lucky-needle/core/model';
import { convertDifference, convertUnit, UNITS, type UnitId } from '@lucky-needle/core/units';
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

export interface Beside {
  readonly title: string;
  readonly value: number;
  /** What it is good to, k = 2. */
  readonly uncertainty: number;
}

/** An instrument on the link that reads the same quantity, in the unit that is wanted. */
export function useBeside(unit: UnitId): Beside | null {
  const instruments = useLiveOf((l) => l.status?.instruments);
  return useMemo(() => {
    const found = instruments?.find((i) => UNITS[i.unit].dimension === UNITS[unit].dimension);
    return found
      ? {
          title: found.title,
          value: convertUnit(found.value, found.unit, unit),
          uncertainty: convertDifference(found.uncertainty, found.unit, unit),
        }
      : null;
  }, [instruments, unit]);
}
