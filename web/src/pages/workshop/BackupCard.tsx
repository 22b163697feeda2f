import { format } from 'date-fns';
import { useRef, useState } from 'react';
import type { RestoreProgress } from '@lucky-needle/core/model';
import {
  useBringBackMutation,
  useDiskQuery,
  useRestoreProgressQuery,
  useRestoreWorkspaceMutation,
} from '../../api/workspaceApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import { bytesInWords } from '../../parts/bytesInWords.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** The whole workspace as one file, and back. */
export function BackupCard() {
  const disk = useDiskQuery().data;
  const [restore, restoring] = useRestoreWorkspaceMutation();
  const progress = useRestoreProgressQuery(undefined, {
    pollingInterval: 500,
    skip: !restoring.isLoading,
  }).data;
  const [bringBack, bringing] = useBringBackMutation();
  /** When the backup was made that is in place now; null before one was restored. */
  const [restored, setRestored] = useState<string | null>(null);
  const [chosen, setChosen] = useState<File | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const dispatch = useAppDispatch();
  return (
    <section className="panel grid gap-3" aria-label="Backup">
      <div>
        <h2 className="font-semibold">Backup</h2>
        <p className="muted mt-1 text-sm">
          Everything in one file with a checksum. You can back up while recording.
          {disk && (
            <>
              {' '}
              The workspace uses <span className="num">{bytesInWords(disk.databaseBytes)}</span>;{' '}
              <span className="num">{bytesInWords(disk.freeBytes)}</span> are free on disk.
            </>
          )}
        </p>
      </div>
      <ProblemNote problem={problemOf(restoring.error ?? bringing.error)} />
      {restored && (
        <div className="flex flex-wrap items-center gap-2 text-sm" role="status">
          <p>
            Workspace backup of <span className="num">{format(new Date(restored), 'd MMM yyyy, HH:mm')}</span>{' '}
            restored. The previous workspace is kept in the data folder.
          </p>
          <button
            type="button"
            className="btn btn-sm"
            disabled={bringing.isLoading}
            onClick={async () => {
              if ('error' in (await bringBack())) return;
              setRestored(null);
              dispatch(toastShown({ text: 'The previous workspace is back.', tone: 'done' }));
            }}
          >
            {bringing.isLoading ? 'Undoing…' : 'Undo restore'}
          </button>
        </div>
      )}
      <input
        ref={input}
        type="file"
        accept=".zip"
        className="hidden"
        aria-label="Backup file to restore"
        onChange={(e) => {
          setChosen(e.target.files?.[0] ?? null);
          e.target.value = '';
        }}
      />
      {chosen ? (
        <div
          className="grid gap-2 rounded-box border border-warning/60 bg-warning/8 p-3 text-sm"
          role="alert"
        >
          <p>
            <strong>{chosen.name}</strong> will replace everything in this workspace. A copy of the current
            workspace is saved in the data folder first.
          </p>
          {restoring.isLoading && progress && (
            <p className="num muted" role="status">
              {inWords(progress, chosen.size)}
            </p>
          )}
          <div className="flex gap-2">
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={restoring.isLoading}
              onClick={async () => {
                const done = await restore(chosen);
                setChosen(null);
                if (done.data) setRestored(done.data.createdAt);
              }}
            >
              {restoring.isLoading ? 'Restoring…' : 'Replace and restore'}
            </button>
            <button type="button" className="btn btn-ghost btn-sm" onClick={() => setChosen(null)}>
              Cancel
            </button>
          </div>
        </div>
      ) : (
        <div className="flex flex-wrap gap-2">
          <a className="btn btn-sm" href="/api/workspace/backup" download>
            Back up now
          </a>
          <button type="button" className="btn btn-ghost btn-sm" onClick={() => input.current?.click()}>
            Restore…
          </button>
        </div>
      )}
    </section>
  );
}

function inWords({ doing, done }: RestoreProgress, bytes: number): string {
  if (doing === 'receiving') return `${Math.min(100, Math.round((100 * done) / bytes))} % uploaded`;
  if (doing === 'checking') return `${done.toLocaleString('en')} entries checked`;
  return doing === null ? 'Starting…' : 'Restoring…';
}
