import { useState } from 'react';
import type { Recording } from '@lucky-needle/core/model';
import { printNominal } from '@lucky-needle/core/units';
import { useLazyStreamFaultsQuery } from '../../api/trueUpApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { Choice } from '../../parts/Choice.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

interface Props {
  readonly gadgetId: string;
  readonly channelId: string;
  readonly recordings: readonly Recording[];
}

const LIVE = 'live';

/** Looks at the raw rows themselves: what is lost, stuck, held, cut off, not warm or miscounted shows there, not in one reading. */
export function StreamCard({ gadgetId, channelId, recordings }: Props) {
  const usable = recordings.filter((r) => r.state !== 'recording' && r.sampleCount > 0);
  const [from, setFrom] = useState(LIVE);
  const [look, { data, error, isFetching, originalArgs }] = useLazyStreamFaultsQuery();
  const chosen = usable.some((r) => r.id === from) ? from : LIVE;
  const told =
    originalArgs?.recordingId === (chosen === LIVE ? null : chosen) && !isFetching ? data : undefined;
  const found = (told?.columns ?? []).flatMap((c) => c.findings.map((f) => ({ ...f, column: c.name })));
  const many = (told?.columns.length ?? 0) > 1;
  return (
    <div className="grid gap-2 border-t border-base-300 pt-3 text-sm">
      <div className="flex flex-wrap items-end gap-2">
        <Choice
          label="Or check raw data"
          value={chosen}
          onChange={setFrom}
          options={[[LIVE, 'live, last few minutes'], ...usable.map((r) => [r.id, r.name] as const)]}
        />
        <button
          type="button"
          className="btn btn-sm"
          disabled={isFetching}
          onClick={() => void look({ gadgetId, channelId, recordingId: chosen === LIVE ? null : chosen })}
        >
          {isFetching ? 'Checking…' : 'Check for faults'}
        </button>
      </div>
      <ProblemNote problem={problemOf(error)} />
      {told && (
        <div role="status" data-testid="stream-faults" className="grid gap-2">
          <p className="muted">
            {found.length === 0 ? 'No faults found' : 'Signs of a fault'} in {told.rows} rows over{' '}
            {printNominal(told.seconds, 3)} s.
          </p>
          {found.length > 0 && (
            <ol className="grid list-decimal gap-2 pl-5">
              {found.map((f) => (
                <li key={`${f.column} ${f.id}`}>
                  <strong className="font-semibold">{f.title}</strong>
                  {many && <span className="muted"> ({f.column})</span>}. {f.seen}
                  <span className="muted block">{f.test}</span>
                </li>
              ))}
            </ol>
          )}
        </div>
      )}
    </div>
  );
}
