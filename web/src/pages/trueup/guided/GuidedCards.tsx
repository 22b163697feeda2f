import type { LineSpec } from '@lucky-needle/core/model';
import { useBench, type ChannelContext } from '../../../app/useBench.ts';
import { useSaveGadget } from '../../../parts/useSaveGadget.ts';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { AcCards } from './AcCards.tsx';
import { guidedFor } from './guidedFor.ts';
import { RotateCard } from './RotateCard.tsx';
import { SixRestsCard } from './SixRestsCard.tsx';
import { LinkCard } from '../../../parts/LinkCard.tsx';

export interface GuidedProps {
  readonly line: LineSpec;
  readonly saving: boolean;
  /** Puts new constants in the channel's line, and those of channels on the same columns. */
  apply(change: (line: LineSpec) => LineSpec, done: string): void;
}

/** The true-up that a line of several columns calls for, step by step. */
export function GuidedCards({ channel }: { channel: ChannelContext }) {
  const { gadget, link } = useBench();
  const { save, saving, problem } = useSaveGadget(gadget);
  const { line } = channel.channel;
  const guided = guidedFor(line);
  const columns = (l: LineSpec) => l.sources.map((s) => s.column).join();
  const props: GuidedProps = {
    line,
    saving,
    apply(change, done) {
      // Channels that read the same columns in the same way are put right together.
      const alike = (l: LineSpec) => columns(l) === columns(line) && guidedFor(l) === guided;
      void save(
        { channels: gadget.channels.map((c) => (alike(c.line) ? { ...c, line: change(c.line) } : c)) },
        done,
      );
    },
  };
  return (
    <div className="grid items-start gap-4 xl:grid-cols-[1fr_21rem]">
      <div className="grid min-w-0 gap-4">
        <ProblemNote problem={problem} />
        {guided === 'rotate' && <RotateCard key={channel.channel.id} {...props} />}
        {guided === 'six-rests' && <SixRestsCard key={channel.channel.id} {...props} />}
        {guided === 'ac' && <AcCards key={channel.channel.id} {...props} />}
      </div>
      <LinkCard gadget={gadget} link={link} />
    </div>
  );
}
