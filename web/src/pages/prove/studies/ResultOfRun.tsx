import { useState } from 'react';
import type { Recording, Study } from '@lucky-needle/core/model';
import { countRecording, meanOfRecording } from '../../../api/readings.ts';
import { useBench } from '../../../app/useBench.ts';
import { isTakable } from './isTakable.ts';
import { RunSelect } from './RunSelect.tsx';

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
  const finished = recordings.filter(isTakable);
  if (finished.length === 0) return null;
  const take = async () => {
    const run = finished.find((r) => r.id === runId);
    if (!run) return setSaid('Choose a run first.');
    setBusy(true);
    setSaid(null);
    try {
      const value = await resultOf(study, run);
      if (value === null) setSaid(`“${run.name}” has no usable result.`);
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
      <RunSelect label="Run to take the value from" runs={finished} value={runId} onChange={setRunId} />
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
