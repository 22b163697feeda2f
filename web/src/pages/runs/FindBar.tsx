import { Search, X } from 'lucide-react';
import type { FoundRuns } from '@lucky-needle/core/trial';
import { counted } from '@lucky-needle/core/words';

interface Props {
  readonly asked: string;
  onAsk(asked: string): void;
  /** Null while nothing is asked. */
  readonly found: FoundRuns | null;
  readonly runs: number;
}

/** Finds runs and trials by name, label, date, note or figure. */
export function FindBar({ asked, onAsk, found, runs }: Props) {
  return (
    <search className="mb-4 flex flex-wrap items-center gap-3">
      <label className="input input-sm flex w-full max-w-md items-center gap-2">
        <Search aria-hidden size={14} className="muted" />
        <input
          className="grow"
          aria-label="Find runs"
          placeholder="Name, label, date, note, or a result above a number"
          maxLength={200}
          value={asked}
          onChange={(e) => onAsk(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Escape') onAsk('');
          }}
        />
        {asked !== '' && (
          <button
            type="button"
            className="btn btn-ghost btn-xs"
            aria-label="Clear search"
            onClick={() => onAsk('')}
          >
            <X aria-hidden size={14} />
          </button>
        )}
      </label>
      {found && (
        <p role="status" className={`text-sm ${found.problem ? 'text-warning' : 'muted'}`}>
          {found.problem ??
            `${found.runIds.size} of ${counted(runs, 'run')}, ${counted(found.trialIds.size, 'trial')}`}
        </p>
      )}
    </search>
  );
}
