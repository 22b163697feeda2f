import { useState } from 'react';
import type { Recording } from '@lucky-needle/core/model';
import { printNumber } from '@lucky-needle/core/units';
import {
  useDeleteRunMutation,
  useMarkRunMutation,
  useSplitRunMutation,
  useTrimRunMutation,
  useUnmarkRunMutation,
} from '../../api/runApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

interface Props {
  readonly recording: Recording;
  /** What is looked at, s since the start; null for all of it. */
  readonly stretch: { readonly fromS: number; readonly toS: number } | null;
  /** Of the plot's time axis: moments are typed and told in it. */
  readonly unit: 's' | 'min';
  onCut(): void;
}

/** Marks, cuts and the removal of a run; each can be taken back, since no sample is written over. */
export function CutBar({ recording, stretch, unit, onCut }: Props) {
  const scale = unit === 'min' ? 60 : 1;
  const startS = recording.firstTimeS ?? 0;
  const dispatch = useAppDispatch();
  const [trim, trimming] = useTrimRunMutation();
  const [split, splitting] = useSplitRunMutation();
  const [mark, marking] = useMarkRunMutation();
  const [unmark] = useUnmarkRunMutation();
  const [remove, removing] = useDeleteRunMutation();
  const [text, setText] = useState('');
  const [at, setAt] = useState('');
  const problem = problemOf(trimming.error ?? splitting.error ?? marking.error ?? removing.error);
  const moment = at.trim() === '' ? Number.NaN : scale * Number(at.replace(',', '.'));
  const lengthS = (recording.lastTimeS ?? 0) - startS;
  const isOutside = moment < 0 || moment > lengthS;
  return (
    <div className="mt-3 grid gap-2 border-t border-base-300 pt-3 text-sm">
      <ProblemNote problem={problem} />
      <div className="flex flex-wrap items-center gap-2">
        <button
          type="button"
          className="btn btn-sm"
          disabled={stretch === null || trimming.isLoading}
          title={stretch === null ? 'Select a section first: drag over the plot' : undefined}
          onClick={async () => {
            const { fromS, toS } = stretch!;
            const done = await trim({ id: recording.id, keep: { fromS: startS + fromS, toS: startS + toS } });
            if (done.data) onCut();
          }}
        >
          Keep only this section
        </button>
        {recording.pieces !== null && (
          <button
            type="button"
            className="btn btn-ghost btn-sm"
            onClick={async () => {
              if ((await trim({ id: recording.id, keep: null })).data) onCut();
            }}
          >
            Restore the whole run
          </button>
        )}
        <button
          type="button"
          className="btn btn-ghost btn-sm ml-auto"
          onClick={async () => {
            if ((await remove(recording.id)).error) return;
            dispatch(
              toastShown({
                text: `“${recording.name}” deleted.`,
                tone: 'done',
                restoreRunId: recording.id,
              }),
            );
          }}
        >
          Delete
        </button>
      </div>
      <form
        className="flex flex-wrap items-center gap-2"
        onSubmit={async (e) => {
          e.preventDefault();
          const done = await mark({
            id: recording.id,
            marker: { timeS: startS + moment, text: text.trim() },
          });
          if (!done.data) return;
          setText('');
          setAt('');
        }}
      >
        <label className="flex items-center gap-2">
          <span className="muted">Time</span>
          <input
            className="input input-sm num w-24"
            inputMode="decimal"
            value={at}
            placeholder="12.5"
            onChange={(e) => setAt(e.target.value)}
          />
          <span className="muted">{unit}</span>
        </label>
        <input
          className="input input-sm max-w-56 grow"
          aria-label="Marker text"
          value={text}
          maxLength={120}
          placeholder="e.g. door opened"
          onChange={(e) => setText(e.target.value)}
        />
        <button className="btn btn-sm" disabled={!Number.isFinite(moment) || isOutside || text.trim() === ''}>
          Add marker
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          disabled={!Number.isFinite(moment) || isOutside || splitting.isLoading}
          onClick={async () => {
            if ((await split({ id: recording.id, atS: startS + moment })).data) onCut();
          }}
        >
          Split here
        </button>
      </form>
      {isOutside && (
        <p role="alert" className="text-warning">
          The run is {printNumber(lengthS / scale, 2)} {unit} long: {printNumber(moment / scale, 2)} {unit} is
          outside it. Enter a time from 0 to {printNumber(lengthS / scale, 2)} {unit}.
        </p>
      )}
      {recording.markers.length > 0 && (
        <ul className="flex flex-wrap gap-x-4 gap-y-1" aria-label="Markers">
          {recording.markers.map((m) => (
            <li key={m.id} className="flex items-center gap-1">
              <span className="num text-secondary">
                {printNumber((m.timeS - startS) / scale, 1)} {unit}
              </span>{' '}
              {m.text}
              <button
                type="button"
                className="btn btn-ghost btn-xs"
                aria-label={`Remove marker ${m.text}`}
                onClick={() => void unmark({ id: recording.id, markerId: m.id })}
              >
                ✕
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
