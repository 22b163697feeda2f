import { toleranceIn } from '@lucky-needle/core/plan';
import { useBench, type ChannelContext } from '../app/useBench.ts';
import { useLiveLine, type LiveLine } from '../live/useLiveLine.ts';
import { NeedleStrip } from './NeedleStrip.tsx';

/** The needle strip of a channel, fed by the live link. */
export function ChannelStrip({ channel, live }: { channel: ChannelContext; live?: LiveLine }) {
  const { gadget } = useBench();
  const own = useLiveLine(channel.channel.id, channel.line, gadget.sampleRateHz);
  const shown = live ?? own;
  return (
    <div className="mb-4">
      <NeedleStrip
        live={shown}
        calibration={channel.covariance}
        noiseRaw={channel.noiseRaw}
        tolerance={shown.line && toleranceIn(channel.brief, shown.line.outputs[0]!.unit)}
        stageHref={(stageId) =>
          `/g/${gadget.id}/line?ch=${channel.channel.id}${stageId ? `#${stageId}` : ''}`
        }
      />
    </div>
  );
}
