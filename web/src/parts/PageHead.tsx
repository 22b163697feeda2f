import type { ReactNode } from 'react';
import type { ChannelContext } from '../app/useBench.ts';
import type { Channel, Gadget } from '@lucky-needle/core/model';

interface Props {
  readonly title: string;
  readonly subtitle?: string;
  readonly gadget?: Gadget;
  readonly channel?: ChannelContext;
  readonly children?: ReactNode;
}

/** Title of a page and, where it works on one channel, the choice of channel. */
export function PageHead({ title, subtitle, gadget, channel, children }: Props) {
  return (
    <header className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
      <h1>{title}</h1>
      {(subtitle ?? channel) && <p className="muted text-sm">{subtitle ?? channel!.channel.name}</p>}
      <div className="ml-auto flex flex-wrap items-center gap-1">
        {children}
        {gadget && channel && gadget.channels.length > 1 && (
          <div role="group" aria-label="Channel" className="flex flex-wrap gap-1">
            {gadget.channels.map((c) => (
              <button
                key={c.id}
                type="button"
                aria-pressed={c.id === channel.channel.id}
                title={c.name}
                className={`btn btn-sm ${c.id === channel.channel.id ? 'bg-base-content text-base-100' : 'btn-ghost'}`}
                onClick={() => channel.choose(c.id)}
              >
                {shortName(c, gadget.channels)}
              </button>
            ))}
          </div>
        )}
      </div>
    </header>
  );
}

/** What stands before the first comma, where that is no other's as well. */
function shortName({ name }: Channel, channels: readonly Channel[]): string {
  const [short] = name.split(',') as [string];
  return channels.filter((c) => c.name.split(',')[0] === short).length > 1 ? name : short;
}
