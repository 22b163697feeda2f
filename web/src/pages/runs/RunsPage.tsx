import { format } from 'date-fns';
import { useRef, useState } from 'react';
import { storedBytesPerDay } from '@lucky-needle/core/formats';
import type { Recording, UploadFor } from '@lucky-needle/core/model';
import { useUploadMutation } from '../../api/importApi.ts';
import { useMarkRunMutation, useStartRecordingMutation, useStopRecordingMutation } from '../../api/runApi.ts';
import { useDiskQuery } from '../../api/workspaceApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import { useBench } from '../../app/useBench.ts';
import { useLiveOf } from '../../live/useLive.ts';
import { DamagedRows } from '../../parts/DamagedRows.tsx';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { SimulatedCondition } from '../../parts/SimulatedCondition.tsx';
import { ImportCard } from './ImportCard.tsx';
import { Overlay } from './Overlay.tsx';
import { RunDetail } from './RunDetail.tsx';
import { TrialsPanel } from './trials/TrialsPanel.tsx';

const STATE_WORDS: Record<Recording['state'], string> = {
  recording: '● recording',
  closed: 'recorded',
  recovered: 'closed after a crash',
  imported: 'imported',
};

/** Recordings of raw counts: made from the link, or brought in from a file. */
export function RunsPage() {
  const { gadget, recordings, link } = useBench();
  const status = useLiveOf((live) => live.status);
  const connected = useLiveOf((live) => live.connected);
  const columnCount = useLiveOf((live) => live.columns.size);
  const dispatch = useAppDispatch();
  const [start, starting] = useStartRecordingMutation();
  const [stop, stopping] = useStopRecordingMutation();
  const [upload, uploading] = useUploadMutation();
  const [looked, setLooked] = useState<UploadFor | null>(null);
  const [compared, setCompared] = useState<readonly string[]>([]);
  const [mark] = useMarkRunMutation();
  const disk = useDiskQuery(undefined, { pollingInterval: 30_000 }).data;
  const [chosen, setChosen] = useState<string | null>(null);
  const [name, setName] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const running = recordings.find((r) => r.state === 'recording') ?? null;
  const shown =
    recordings.find((r) => r.id === chosen) ?? recordings.find((r) => r.state !== 'recording') ?? null;
  const over = recordings.filter((r) => compared.includes(r.id));
  const problem = problemOf(starting.error ?? stopping.error ?? uploading.error);
  const linkUp = connected && status?.state === 'up';

  return (
    <>
      <PageHead title="Runs" subtitle="Raw counts are kept as they came; readings are worked out from them">
        <input
          ref={file}
          type="file"
          className="hidden"
          aria-label="File to import"
          onChange={async (e) => {
            const picked = e.target.files?.[0];
            e.target.value = '';
            if (!picked) return;
            const result = await upload({ gadgetId: gadget.id, file: picked });
            if (result.data) setLooked(result.data);
          }}
        />
        <button
          type="button"
          className="btn btn-outline btn-sm"
          disabled={uploading.isLoading}
          onClick={() => file.current?.click()}
        >
          {uploading.isLoading ? 'Sending…' : 'Import a file'}
        </button>
      </PageHead>
      <DamagedRows gadgetId={gadget.id} />
      <div className="mb-4 grid gap-3">
        <ProblemNote problem={problem} />
        <section
          className={`panel flex flex-wrap items-center gap-3 ${running ? 'border-accent' : ''}`}
          aria-label="Record"
        >
          {running ? (
            <>
              <span className="font-semibold">● Recording “{running.name}”</span>
              <span className="num text-sm" data-testid="committed">
                {status?.recording?.committed ?? running.sampleCount} readings safe on disk
              </span>
              {disk && disk.daysLeft !== null && (
                <span className={`text-sm ${disk.daysLeft < 7 ? 'text-warning' : 'muted'}`}>
                  room for {daysInWords(disk.daysLeft)} at this rate
                </span>
              )}
              <button
                type="button"
                className="btn btn-sm"
                onClick={() =>
                  void mark({
                    id: running.id,
                    marker: { timeS: null, text: `mark ${running.markers.length + 1}` },
                  })
                }
              >
                Mark this moment
              </button>
              {!linkUp && (
                <span className="text-sm text-error">The link is silent; the gap will be marked.</span>
              )}
              <button
                type="button"
                className="btn btn-primary btn-sm ml-auto"
                disabled={stopping.isLoading}
                onClick={async () => {
                  const result = await stop(running.id);
                  if (result.data) {
                    setChosen(result.data.id);
                    dispatch(
                      toastShown({ text: `Stopped: ${result.data.sampleCount} readings.`, tone: 'done' }),
                    );
                  }
                }}
              >
                Stop
              </button>
            </>
          ) : (
            <form
              className="flex grow flex-wrap items-center gap-3"
              onSubmit={async (e) => {
                e.preventDefault();
                const result = await start({
                  gadgetId: gadget.id,
                  name: name.trim() || `Run of ${format(new Date(), 'd MMM, HH:mm')}`,
                });
                if (result.data) setName('');
              }}
            >
              <label className="flex grow items-center gap-2 text-sm">
                <span className="muted">Name</span>
                <input
                  className="input input-sm max-w-80 grow"
                  value={name}
                  maxLength={80}
                  placeholder={`Run of ${format(new Date(), 'd MMM, HH:mm')}`}
                  onChange={(e) => setName(e.target.value)}
                />
              </label>
              {!link && (
                <span className="muted text-sm">
                  No link to record; import a file, or make a link on the Link page.
                </span>
              )}
              {disk && disk.daysLeft === null && linkUp && (
                <span className="muted text-sm">
                  room for {daysInWords(disk.freeBytes / storedBytesPerDay(columnCount, gadget.sampleRateHz))}{' '}
                  of these readings
                </span>
              )}
              {link && !linkUp && <span className="text-sm text-warning">The link is silent.</span>}
              <button className="btn btn-primary btn-sm" disabled={!link || starting.isLoading}>
                Record
              </button>
            </form>
          )}
          <div className="w-full empty:hidden">
            <SimulatedCondition gadgetId={gadget.id} link={link} />
          </div>
        </section>
      </div>
      {looked && (
        <ImportCard
          key={looked.upload.id}
          upload={looked}
          onDone={(id) => {
            setLooked(null);
            if (!id) return;
            setChosen(id);
            dispatch(toastShown({ text: 'Imported.', tone: 'done' }));
          }}
        />
      )}
      {recordings.length > 0 && <TrialsPanel gadget={gadget} isRecording={running !== null} />}
      {recordings.length === 0 ? (
        <EmptyState title="No runs yet">
          Record the live link, or import a file: a table, a log, JSON lines, SenML, position sentences, a
          track, a sound file or a data package. You see what is in it before anything is stored.
        </EmptyState>
      ) : (
        <div className="grid items-start gap-4 xl:grid-cols-[20rem_1fr]">
          <ul className="grid gap-1" aria-label="Recordings">
            {recordings.map((r) => (
              <li key={r.id} className="flex items-start gap-1">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs mt-3"
                  aria-label={`Lay ${r.name} over others`}
                  disabled={r.state === 'recording' || r.sampleCount === 0}
                  checked={compared.includes(r.id)}
                  onChange={(e) =>
                    setCompared(e.target.checked ? [...compared, r.id] : compared.filter((id) => id !== r.id))
                  }
                />
                <button
                  type="button"
                  aria-pressed={shown?.id === r.id}
                  disabled={r.state === 'recording'}
                  className={`min-w-0 grow rounded-box border px-3 py-2 text-left ${shown?.id === r.id ? 'border-primary bg-base-100' : 'border-transparent hover:bg-base-100'}`}
                  onClick={() => setChosen(r.id)}
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
                    {r.lostReadings > 0 && <span className="text-warning"> · {r.lostReadings} lost</span>}
                  </span>
                </button>
              </li>
            ))}
          </ul>
          {over.length > 1 ? (
            <Overlay
              key={over.map((r) => r.id).join()}
              runs={over}
              onJoined={(id) => {
                setCompared([]);
                setChosen(id);
              }}
            />
          ) : shown ? (
            <RunDetail key={shown.id} recording={shown} />
          ) : (
            <EmptyState title="The first run is being recorded">Stop it to see it here.</EmptyState>
          )}
        </div>
      )}
    </>
  );
}

function daysInWords(days: number): string {
  if (days < 2) return `${Math.floor(24 * days)} hours`;
  return days < 730 ? `${Math.floor(days)} days` : `${Math.floor(days / 365)} years`;
}
