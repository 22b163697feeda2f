import { format } from 'date-fns';
import type { Recording } from '@lucky-needle/core/model';

const STATE_WORDS: Record<Recording['state'], string> = {
  recording: '● recording',
  closed: 'recorded',
  recovered: 'recovered after a crash',
  imported: 'imported',
};

interface Props {
  readonly runs: readonly Recording[];
  readonly shownId: string | null;
  /** Ids of those that are laid over each other. */
  readonly compared: readonly string[];
  onCompare(ids: readonly string[]): void;
  onChoose(id: string): void;
}

/** Runs to choose one of, or several to lay over each other. */
export function RunList({ runs, shownId, compared, onCompare, onChoose }: Props) {
  return (
    <ul className="grid gap-1" aria-label="Runs">
      {runs.map((r) => (
        <li key={r.id} className="flex items-start gap-1">
          <input
            type="checkbox"
            className="checkbox checkbox-xs mt-3"
            aria-label={`Add ${r.name} to the overlay`}
            disabled={r.state === 'recording' || r.sampleCount === 0}
            checked={compared.includes(r.id)}
            onChange={(e) =>
              onCompare(e.target.checked ? [...compared, r.id] : compared.filter((id) => id !== r.id))
            }
          />
          <button
            type="button"
            aria-pressed={shownId === r.id}
            disabled={r.state === 'recording'}
            className={`min-w-0 grow rounded-box border px-3 py-2 text-left ${shownId === r.id ? 'border-primary bg-base-100' : 'border-transparent hover:bg-base-100'}`}
            onClick={() => onChoose(r.id)}
          >
            <span
              className={`block truncate text-sm font-semibold ${r.excluded === null ? '' : 'line-through opacity-70'}`}
            >
              {r.name}
            </span>
            <span className="num muted block text-xs">
              {format(new Date(r.startedAt), 'd MMM yyyy, HH:mm')} · {STATE_WORDS[r.state]}
            </span>
            <span className="num muted block text-xs">
              {r.sampleCount.toLocaleString('en')} raw rows
              {r.lostReadings > 0 && <span className="text-warning"> · {r.lostReadings} readings lost</span>}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}
