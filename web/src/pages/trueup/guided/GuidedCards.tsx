import type { UnitId } from '@lucky-needle/core/units';
import { useBench, type ChannelContext } from '../../../app/useBench.ts';
import { LinkCard } from '../../../parts/LinkCard.tsx';
import { SlipForm } from '../SlipForm.tsx';
import { Versions } from '../Versions.tsx';
import { AcCards } from './AcCards.tsx';
import { BearingCard } from './BearingCard.tsx';
import { DragsCard } from './DragsCard.tsx';
import { guidedFor } from './guidedFor.ts';
import { RateCard } from './RateCard.tsx';
import { RotateCard } from './RotateCard.tsx';
import { SixRestsCard } from './SixRestsCard.tsx';

/** The true-up that a line calls for whose reading cannot be held still, step by step. */
export function GuidedCards({ channel, unit }: { channel: ChannelContext; unit: UnitId }) {
  const { gadget, link, calibrations } = useBench();
  const guided = guidedFor(channel.channel.line);
  return (
    <div className="grid items-start gap-4 xl:grid-cols-[1fr_21rem]">
      <div className="grid min-w-0 gap-4" key={channel.channel.id}>
        {guided === 'rotate' && (
          <>
            <RotateCard channel={channel} />
            <BearingCard channel={channel} />
          </>
        )}
        {guided === 'six-rests' && <SixRestsCard channel={channel} />}
        {guided === 'ac' && <AcCards channel={channel} />}
        {guided === 'drags' && <DragsCard channel={channel} />}
        {guided === 'rate' && <RateCard channel={channel} />}
        <SlipForm channel={channel} unit={unit} />
      </div>
      <div className="grid gap-4">
        <LinkCard gadget={gadget} link={link} />
        <Versions
          calibrations={calibrations.filter((c) => c.channelId === channel.channel.id)}
          line={channel.base}
          sampleRateHz={gadget.sampleRateHz}
          unit={null}
          name={`${gadget.name}, ${channel.channel.name}`}
        />
      </div>
    </div>
  );
}
