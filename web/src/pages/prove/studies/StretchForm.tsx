import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { StudyStretch } from '@lucky-needle/core/model';
import { printNumber } from '@lucky-needle/core/units';
import { useBench } from '../../../app/useBench.ts';
import { parseTyped } from '../../../parts/NumberField.tsx';

interface Props {
  readonly stretches: readonly StudyStretch[];
  readonly busy: boolean;
  onChange(stretches: readonly StudyStretch[]): void;
}

/** Stretches of runs that a study takes: by the run's own seconds, from its begin. */
export function StretchForm({ stretches, busy, onChange }: Props) {
  const { recordings } = useBench();
  const usable = recordings.filter((r) => r.state !== 'recording' && r.sampleCount > 0);
  const [runId, setRunId] = useState(usable[0]?.id ?? '');
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const run = usable.find((r) => r.id === runId);
  const add = () => {
    if (!run) return;
    const lengthS = (run.lastTimeS ?? 0) - (run.firstTimeS ?? 0);
    const at = (text: string) => (text.trim() === '' ? null : parseTyped(text));
    const [fromS, toS] = [at(from), at(to)];
    if (Number.isNaN(fromS) || Number.isNaN(toS))
      return setFault('Enter From and To in seconds, or leave them blank for the whole run.');
    if ((fromS ?? 0) < 0 || (toS ?? lengthS) > lengthS + 0.01 || (fromS ?? 0) >= (toS ?? lengthS))
      return setFault(`“${run.name}” runs from 0 to ${lengthS.toFixed(1)} s: choose a section within it.`);
    setFault(null);
    const firstS = run.firstTimeS ?? 0;
    onChange([
      ...stretches,
      {
        recordingId: run.id,
        fromS: fromS === null ? null : firstS + fromS,
        toS: toS === null ? null : firstS + toS,
      },
    ]);
  };
  return (
    <div className="grid gap-2">
      {stretches.length > 0 && (
        <ul className="grid gap-1 text-sm">
          {stretches.map((s, i) => {
            const its = recordings.find((r) => r.id === s.recordingId);
            const since = (t: number | null, end: string) =>
              t === null ? end : `${printNumber(t - (its?.firstTimeS ?? 0), 1)} s`;
            return (
              <li key={`${s.recordingId} ${i}`} className="flex items-center gap-2">
                <span className="grow">
                  {its?.name ?? 'deleted run'}, {since(s.fromS, 'start')} to {since(s.toS, 'end')}
                </span>
                <button
                  type="button"
                  className="btn btn-ghost btn-xs no-print"
                  aria-label={`Remove ${its?.name ?? 'the run'}`}
                  disabled={busy}
                  onClick={() => onChange(stretches.filter((_, k) => k !== i))}
                >
                  <Trash2 className="size-3.5" aria-hidden />
                </button>
              </li>
            );
          })}
        </ul>
      )}
      {usable.length === 0 ? (
        <p className="muted text-sm">No runs yet: record one on the Runs page.</p>
      ) : (
        <form
          className="no-print flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            add();
          }}
        >
          <label className="block min-w-40 grow">
            <span className="muted mb-1 block text-xs">Run</span>
            <select
              className="select select-sm w-full"
              value={runId}
              onChange={(e) => setRunId(e.target.value)}
            >
              {usable.map((r) => (
                <option key={r.id} value={r.id}>
                  {r.name}, {((r.lastTimeS ?? 0) - (r.firstTimeS ?? 0)).toFixed(0)} s
                </option>
              ))}
            </select>
          </label>
          {(
            [
              ['From, s', from, setFrom, 'start'],
              ['To, s', to, setTo, 'end'],
            ] as const
          ).map(([label, value, set, end]) => (
            <label key={label} className="block w-24">
              <span className="muted mb-1 block text-xs">{label}</span>
              <input
                className="input input-sm num w-full"
                inputMode="decimal"
                autoComplete="off"
                placeholder={end}
                value={value}
                onChange={(e) => set(e.target.value)}
              />
            </label>
          ))}
          <button type="submit" className="btn btn-primary btn-sm" disabled={busy}>
            Add section
          </button>
        </form>
      )}
      {fault && (
        <p role="alert" className="text-sm text-error">
          {fault}
        </p>
      )}
    </div>
  );
}
