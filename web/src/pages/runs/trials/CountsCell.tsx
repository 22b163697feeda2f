import { useState } from 'react';
import type { Trial } from '@lucky-needle/core/model';

interface Props {
  readonly trial: Trial;
  onExclude(reason: string | null): void;
}

/** Whether a trial counts, and why not. */
export function CountsCell({ trial, onExclude }: Props) {
  const [asked, setAsked] = useState(false);
  const [reason, setReason] = useState('');
  if (trial.isOpen) return null;
  if (trial.excluded !== null)
    return (
      <span className="inline-flex items-center gap-2 no-underline">
        <span className="max-w-24 truncate text-xs" title={trial.excluded}>
          Excluded: {trial.excluded}
        </span>
        <button type="button" className="btn btn-ghost btn-xs" onClick={() => onExclude(null)}>
          Include
        </button>
      </span>
    );
  if (!asked)
    return (
      <button type="button" className="btn btn-ghost btn-xs" onClick={() => setAsked(true)}>
        Exclude
      </button>
    );
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (reason.trim() === '') return;
        onExclude(reason.trim());
        setAsked(false);
        setReason('');
      }}
    >
      <input
        className="input input-xs w-32"
        aria-label={`Reason for excluding trial ${trial.number}`}
        placeholder="reason"
        autoFocus
        maxLength={200}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Escape') setAsked(false);
        }}
      />
      <button className="btn btn-xs" disabled={reason.trim() === ''}>
        Exclude
      </button>
    </form>
  );
}
