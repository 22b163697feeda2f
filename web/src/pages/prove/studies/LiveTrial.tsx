import { useState } from 'react';
import { printNumber } from '@lucky-needle/core/units';
import { useLive } from '../../../live/useLive.ts';

interface Props {
  /** What the gadget shows now; NaN while it shows nothing. */
  readonly shown: number;
  /** What it counted between begin and end, and for how long by its own clock. */
  onEnded(counted: number, seconds: number): void;
}

/** A trial on the live gadget: what it counted between two presses. */
export function LiveTrial({ shown, onEnded }: Props) {
  const nowS = useLive().times.at(-1) ?? Number.NaN;
  const [begun, setBegun] = useState<{ readonly count: number; readonly timeS: number } | null>(null);
  if (!Number.isFinite(shown) || Number.isNaN(nowS))
    return (
      <p className="muted text-sm">
        {begun
          ? 'No reading from the gadget right now; the trial continues.'
          : 'No live count. Connect the gadget, or type in its count.'}
      </p>
    );
  if (!begun)
    return (
      <button
        type="button"
        className="btn btn-sm justify-self-start"
        onClick={() => setBegun({ count: shown, timeS: nowS })}
      >
        Start trial
      </button>
    );
  // A gadget that was switched on anew counts from nothing again, and its clock as well.
  const restarted = shown < begun.count || nowS < begun.timeS;
  return (
    <div className="flex flex-wrap items-center gap-2 text-sm" role="status">
      {restarted ? (
        <span>The gadget restarted its count, so this trial cannot be used.</span>
      ) : (
        <span>
          This trial: <span className="num">{printNumber(shown - begun.count, 0)}</span> counted in{' '}
          <span className="num">{printNumber(nowS - begun.timeS, 0)} s</span>
        </span>
      )}
      {!restarted && (
        <button
          type="button"
          className="btn btn-primary btn-sm"
          onClick={() => {
            onEnded(shown - begun.count, nowS - begun.timeS);
            setBegun(null);
          }}
        >
          End trial
        </button>
      )}
      <button type="button" className="btn btn-ghost btn-sm" onClick={() => setBegun(null)}>
        Discard trial
      </button>
    </div>
  );
}
