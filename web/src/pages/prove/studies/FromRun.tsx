import { useState } from 'react';
import type { Recording, Study } from '@lucky-needle/core/model';
import { studyAbout } from '@lucky-needle/core/plan';
import { UNITS } from '@lucky-needle/core/units';
import { useStudyPairsMutation } from '../../../api/studyApi.ts';
import { problemOf } from '../../../api/problemOf.ts';
import { countRecording, meanOfRecording } from '../../../api/readings.ts';
import { useBench } from '../../../app/useBench.ts';
import { NumberField } from '../../../parts/NumberField.tsx';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';

interface RunSelectProps {
  readonly label: string;
  readonly runs: readonly Recording[];
  readonly value: string;
  onChange(runId: string): void;
}

function RunSelect({ label, runs, value, onChange }: RunSelectProps) {
  return (
    <select
      className="select select-sm w-auto max-w-56"
      aria-label={label}
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      <option value="">choose…</option>
      {runs.map((r) => (
        <option key={r.id} value={r.id}>
          {r.name}
        </option>
      ))}
    </select>
  );
}

interface TakenProps {
  readonly study: Study;
  readonly onTaken: (value: number, run: Recording) => void;
}

/** What a run came to: its figure, or the mean of its readings. */
export function ResultOfRun({ study, onTaken }: TakenProps) {
  const { recordings } = useBench();
  const [runId, setRunId] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const finished = recordings.filter((r) => r.state !== 'recording' && r.excluded === null);
  if (finished.length === 0) return null;
  const take = async () => {
    const run = finished.find((r) => r.id === runId);
    if (!run) return setSaid('Choose a run first.');
    setBusy(true);
    setSaid(null);
    try {
      const value = await resultOf(study, run);
      if (value === null) setSaid(`“${run.name}” came to nothing that can be taken.`);
      else onTaken(value, run);
    } catch (error) {
      setSaid((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="no-print flex flex-wrap items-center gap-2 text-sm">
      <span className="muted">{study.figureId === null ? 'Mean of a run' : 'Result of a run'}</span>
      <RunSelect label="Run to take a result from" runs={finished} value={runId} onChange={setRunId} />
      <button type="button" className="btn btn-sm" disabled={busy} onClick={() => void take()}>
        Fill in
      </button>
      {said && (
        <span role="alert" className="text-error">
          {said}
        </span>
      )}
    </div>
  );
}

async function resultOf(study: Study, run: Recording): Promise<number | null> {
  if (study.figureId === null) return meanOfRecording(run.id, study.channelId);
  const counts = await countRecording(run.id, { draft: null }, new AbortController().signal, () => undefined);
  return (
    counts.find((c) => c.channelId === study.channelId)?.figures.find((f) => f.id === study.figureId)
      ?.value ?? null
  );
}

interface PairsProps {
  readonly study: Study;
  readonly onPairs: (pairs: readonly { reference: number; shown: number }[], run: Recording) => void;
}

/** Two channels of a run side by side, as pairs. */
export function PairsOfRun({ study, onPairs }: PairsProps) {
  const { gadget, recordings } = useBench();
  const about = studyAbout(gadget, study.channelId, null);
  const others = gadget.channels.filter((c) => {
    const its = c.id === study.channelId ? null : studyAbout(gadget, c.id, null);
    return its && about && UNITS[its.unit].dimension === UNITS[about.unit].dimension;
  });
  const [runId, setRunId] = useState('');
  const [otherId, setOtherId] = useState(others[0]?.id ?? '');
  const [everyS, setEveryS] = useState(5);
  const [ask, asking] = useStudyPairsMutation();
  const finished = recordings.filter((r) => r.state !== 'recording' && r.excluded === null);
  if (study.figureId !== null || others.length === 0 || finished.length === 0) return null;
  const take = async () => {
    const run = finished.find((r) => r.id === runId);
    if (!run) return;
    const answer = await ask({
      id: study.id,
      body: { recordingId: run.id, other: { recordingId: run.id, channelId: otherId }, everyS },
    });
    if ('data' in answer && answer.data) onPairs(answer.data.pairs, run);
  };
  return (
    <div className="no-print grid gap-2">
      <div className="flex flex-wrap items-end gap-2 text-sm">
        <label className="block">
          <span className="muted mb-1 block text-xs">Side by side in run</span>
          <RunSelect label="Side by side in run" runs={finished} value={runId} onChange={setRunId} />
        </label>
        <label className="block">
          <span className="muted mb-1 block text-xs">The other instrument</span>
          <select
            className="select select-sm w-auto"
            value={otherId}
            onChange={(e) => setOtherId(e.target.value)}
          >
            {others.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
        <NumberField
          className="w-28"
          label="A pair each"
          unit="s"
          value={everyS}
          onChange={setEveryS}
          check={(v) => (v > 0 ? null : 'Above 0.')}
        />
        <button
          type="button"
          className="btn btn-sm"
          disabled={runId === '' || asking.isLoading}
          onClick={() => void take()}
        >
          Take pairs
        </button>
      </div>
      <ProblemNote problem={problemOf(asking.error)} />
    </div>
  );
}
