import { useMemo } from 'react';
import { sensorOf } from '@lucky-needle/core/plan';
import { seenInPoints, shownWorth } from '@lucky-needle/core/prove';
import { useBench, type ChannelContext } from '../app/useBench.ts';
import { useShelf } from '../app/useShelf.ts';
import { useLiveOf } from '../live/useLive.ts';
import type { LiveLine } from '../live/useLiveLine.ts';

/** Standard uncertainty of a channel's newest reading with all that is known of it; null when not known. */
export function useShownWorth(channel: ChannelContext, live: LiveLine): number | null {
  const { gadget } = useBench();
  const counts = useLiveOf((l) => l.counts);
  const shelf = useShelf();
  const { line } = live;
  const seen = useMemo(
    () =>
      line &&
      seenInPoints(
        channel.points.filter((p) => p.excluded === null),
        line,
      ),
    [channel.points, line],
  );
  return (
    line &&
    seen &&
    shownWorth({
      line,
      raw: live.newestRaw,
      reading: live.newest.at(-1) ?? Number.NaN,
      ...seen,
      calibration: channel.calibration,
      covariance: channel.covariance,
      told: live.isDraft ? null : (counts.get(channel.channel.id)?.worth ?? null),
      sensor: sensorOf(gadget, channel.channel, shelf),
    })
  );
}
