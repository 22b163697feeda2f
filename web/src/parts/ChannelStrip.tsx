import { useBench, type ChannelContext } from '../app/useBench.ts';
import { useLiveLine, type LiveLine } from '../live/useLiveLine.ts';
import { NeedleStrip } from './NeedleStrip.tsx';

/** The needle strip of a channel, fed by the live link. */
export function ChannelStrip({ channel, live }: { channel: ChannelContext; live?: LiveLine }) {
  const { gadget } = useBench();
  const own = useLiveLine(channel.line, gadget.sampleRateHz);
  return (
    <div className="mb-4">
      <NeedleStrip
        live={live ?? own}
        calibration={channel.covariance}
        noiseRaw={channel.noiseRaw}
        tolerance={gadget.brief?.tolerance ?? null}
        stageHref={(stageId) =>
          `/g/${gadget.id}/line?ch=${channel.channel.id}${stageId ? `#${stageId}` : ''}`
        }
      />
    </div>
  );
}
