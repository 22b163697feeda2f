import { faceSpectrum } from '@lucky-needle/core/face';
import { useBench } from '../../app/useBench.ts';
import { useLive } from '../../live/useLive.ts';
import { clock, useWarmUp } from '../trueup/useWarmUp.ts';
import { faceAlarm } from './faceAlarm.ts';
import type { FaceSource } from './faceSource.ts';
import { useFaceReadings } from './useFaceReadings.ts';

/** What a face can show of the live bench. */
export function useLiveFace(): FaceSource {
  const bench = useBench();
  const { gadget, link } = bench;
  const live = useLive();
  const readings = useFaceReadings(bench);
  const { coldS } = useWarmUp(
    gadget,
    gadget.channels.map((c) => c.askId),
  );
  const silent = link && live.status?.state === 'up' && live.connected ? null : 'no link';
  const level = silent === null ? (live.alarms?.level ?? 'unknown') : 'unknown';
  return {
    readings,
    counts: live.counts,
    spectrum: (channelId) => {
      const newest = live.readings.get(channelId)?.at(-1);
      return newest ? faceSpectrum(newest) : null;
    },
    nowS: live.times.at(-1) ?? Number.NaN,
    silent,
    warming: coldS > 0 ? clock(coldS) : null,
    alarm: faceAlarm(gadget.alarms ?? [], level, live.alarms?.items ?? []),
  };
}
