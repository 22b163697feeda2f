import type { ReactNode } from 'react';
import type { AlarmOutputs } from '@lucky-needle/core/alarm';
import { Lamps } from './Lamps.tsx';

interface Props {
  /** What the face reads out. */
  readonly spoken: string;
  readonly caption: string;
  /** What stands beside the display on the gadget; null where it has no alarm. */
  readonly outputs: AlarmOutputs | null;
  readonly below?: ReactNode;
  /** Takes all the room there is, with nothing around it but the lamps. */
  readonly fills?: boolean;
  readonly children: ReactNode;
}

/** The front of the gadget: its display, and the lamps and the sounder that its alarms drive. */
export function DisplayFrame({ spoken, caption, outputs, below, fills = false, children }: Props) {
  if (fills)
    return (
      <figure className="m-0 flex h-full min-h-0 flex-col bg-neutral" aria-label={`Display: ${spoken}`}>
        <div className="flex min-h-0 grow items-center justify-center [container-type:size]">{children}</div>
      </figure>
    );
  return (
    <figure
      className="m-0 rounded-box border border-base-300 bg-neutral p-4 sm:p-6"
      aria-label={`Display: ${spoken}`}
    >
      {children}
      {outputs && <Lamps outputs={outputs} />}
      {below}
      <figcaption className="mt-2 text-center text-xs text-neutral-content/80">{caption}</figcaption>
    </figure>
  );
}
