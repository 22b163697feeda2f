import { format } from 'date-fns';
import { useMemo, useRef, useState } from 'react';
import { storedBytesPerDay } from '@lucky-needle/core/formats';
import type { UploadFor } from '@lucky-needle/core/model';
import { findRuns } from '@lucky-needle/core/trial';
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
import { BatchCard } from './BatchCard.tsx';
import { FindBar } from './FindBar.tsx';
import { ImportCard } from './ImportCard.tsx';
import { Overlay } from './Overlay.tsx';
import { RunDetail } from './RunDetail.tsx';
import { RunList } from './RunList.tsx';
import { RunPlanForm } from './RunPlanForm.tsx';
import { textOfRun } from './textOfRun.ts';
import { TrialsPanel } from './trials/TrialsPanel.tsx';
import { useBatch } from './useBatch.ts';
import { useTrials } from './trials/useTrials.ts';

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
  const batch = useBatch();
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
  const trials = useTrials(gadget.id, null, running !== null);
  const [asked, setAsked] = useState('');
  const finding = useMemo(
    () =>
      asked.trim() === '' ? null : findRuns(asked, recordings.map(textOfRun), trials.trials?.trials ?? []),
    [asked, recordings, trials.trials],
  );
  const over = recordings.filter((r) => compared.includes(r.id));
  const problem = problemOf(starting.error ?? stopping.error ?? uploading.error);
  const linkUp = connected && status?.state === 'up';

  return (
    <>
      <PageHead title="Runs" subtitle="Raw counts are stored unchanged; readings are calculated from them">
        <input
          ref={file}
          type="file"
          className="hidden"
          multiple
          aria-label="Files to import"
          onChange={async (e) => {
            const [picked, ...more] = [...(e.target.files ?? [])];
            e.target.value = '';
            if (!picked) return;
            if (more.length > 0) return void batch.begin([picked, ...more]);
            const result = await upload({ gadgetId: gadget.id, file: picked });
            if (result.data) setLooked(result.data);
          }}
        />
        <button
          type="button"
          className="btn btn-outline btn-sm"
          disabled={uploading.isLoading || batch.files !== null}
          onClick={() => file.current?.click()}
        >
          {uploading.isLoading ? 'Uploading…' : 'Import files'}
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
                {status?.recording?.committed ?? running.sampleCount} raw rows saved to disk
              </span>
              {disk && disk.daysLeft !== null && (
                <span className={`text-sm ${disk.daysLeft < 7 ? 'text-warning' : 'muted'}`}>
                  disk space for {daysInWords(disk.daysLeft)} at this rate
                </span>
              )}
              <button
                type="button"
                className="btn btn-sm"
                onClick={() =>
                  void mark({
                    id: running.id,
                    marker: {
                      timeS: null,
                      text: `marker ${running.markers.filter((m) => !m.isTruth).length + 1}`,
                    },
                  })
                }
              >
                Add marker
              </button>
              {!linkUp && (
                <span className="text-sm text-error">No data from the link; the gap will be marked.</span>
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
                      toastShown({
                        text: `Stopped: ${result.data.sampleCount.toLocaleString('en')} raw rows.`,
                        tone: 'done',
                      }),
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
                  name: name.trim() || `Run ${format(new Date(), 'd MMM, HH:mm')}`,
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
                  placeholder={`Run ${format(new Date(), 'd MMM, HH:mm')}`}
                  onChange={(e) => setName(e.target.value)}
                />
              </label>
              {!link && (
                <span className="muted text-sm">
                  No link to record from. Import a file, or set up a link on the Link page.
                </span>
              )}
              {disk && disk.daysLeft === null && linkUp && (
                <span className="muted text-sm">
                  disk space for{' '}
                  {daysInWords(disk.freeBytes / storedBytesPerDay(columnCount, gadget.sampleRateHz))} of
                  recording
                </span>
              )}
              {link && !linkUp && <span className="text-sm text-warning">No data from the link.</span>}
              <button className="btn btn-primary btn-sm" disabled={!link || starting.isLoading}>
                Record
              </button>
            </form>
          )}
          <div className="w-full empty:hidden">
            <SimulatedCondition gadgetId={gadget.id} link={link} />
          </div>
          {link && <RunPlanForm gadget={gadget} />}
        </section>
      </div>
      {batch.files && <BatchCard files={batch.files} onStop={batch.stop} onClose={batch.close} />}
      {looked && (
        <ImportCard
          key={looked.upload.id}
          upload={looked}
          onDone={(id) => {
            setLooked(null);
            if (!id) return;
            setChosen(id);
            dispatch(toastShown({ text: 'File imported.', tone: 'done' }));
          }}
        />
      )}
      {recordings.length > 0 && (
        <FindBar asked={asked} onAsk={setAsked} found={finding} runs={recordings.length} />
      )}
      {recordings.length > 0 && (
        <TrialsPanel
          gadget={gadget}
          isRecording={running !== null}
          trials={trials}
          only={finding?.trialIds ?? null}
        />
      )}
      {recordings.length === 0 ? (
        <EmptyState title="No runs yet">
          Record from the live link, or import a file: table, log, JSON Lines, SenML, NMEA 0183 sentences, GPX
          track, WAV audio or data package. You can check its contents before anything is stored.
        </EmptyState>
      ) : (
        <div className="grid items-start gap-4 xl:grid-cols-[20rem_1fr]">
          <RunList
            runs={finding ? recordings.filter((r) => finding.runIds.has(r.id)) : recordings}
            shownId={shown?.id ?? null}
            compared={compared}
            onCompare={setCompared}
            onChoose={setChosen}
          />
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
            <EmptyState title="Your first run is being recorded">
              It appears here when you stop it.
            </EmptyState>
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
