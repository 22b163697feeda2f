import { useEffect, useState } from 'react';
import type { ImportBody, UploadFor } from '@lucky-needle/core/model';
import { rawColumns } from '@lucky-needle/core/plan';
import { printNominal, printSignificant, type UnitId } from '@lucky-needle/core/units';
import { api } from '../../api/api.ts';
import {
  useCancelJobMutation,
  useDiscardUploadMutation,
  useImportUploadMutation,
  useJobQuery,
} from '../../api/importApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useBench } from '../../app/useBench.ts';
import { bytesInWords } from '../../parts/bytesInWords.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { UnitSelect } from '../../parts/UnitSelect.tsx';
import { runNameOf } from './batch.ts';

const LOOK_MS = 300;

interface Taken {
  /** Empty: left out. */
  readonly name: string;
  readonly unit: UnitId;
}

interface Props {
  readonly upload: UploadFor;
  /** With the recording that was made, or null. */
  onDone(recordingId: string | null): void;
}

/** What a file holds, which of it is taken and as what; then the work, with its progress. */
export function ImportCard({ upload: { upload, matched, known }, onDone }: Props) {
  const { gadget } = useBench();
  const dispatch = useAppDispatch();
  const raw = rawColumns(gadget);
  const [name, setName] = useState(runNameOf(upload.name));
  const [taken, setTaken] = useState<readonly Taken[]>(() =>
    upload.columns.map((c, i) => ({ name: matched[i] ?? '', unit: c.unit ?? 'count' })),
  );
  const [run, running] = useImportUploadMutation();
  const [discard] = useDiscardUploadMutation();
  const [jobId, setJobId] = useState<string | null>(null);
  const body: ImportBody = {
    gadgetId: gadget.id,
    name,
    columns: taken.flatMap((t, at) => (t.name === '' ? [] : [{ at, name: t.name, unit: t.unit }])),
  };
  const firstValues = (at: number) =>
    upload.rows
      .slice(0, 3)
      .map(({ values }) => (values[at] === null ? '–' : printNominal(values[at]!, 5)))
      .join('  ');
  const set = (at: number, change: Partial<Taken>) =>
    setTaken(taken.map((t, i) => (i === at ? { ...t, ...change } : t)));
  if (jobId)
    return (
      <JobCard
        id={jobId}
        onEnd={(result) => {
          dispatch(api.util.invalidateTags(['recordings', 'logbook']));
          if (result) onDone(result);
          else setJobId(null);
        }}
      />
    );
  return (
    <form
      className="panel mb-4 grid gap-3"
      aria-label="Import"
      onSubmit={async (e) => {
        e.preventDefault();
        const started = await run({ id: upload.id, body });
        if (started.data) setJobId(started.data.id);
      }}
    >
      <header>
        <h2 className="section-title">{upload.name}</h2>
        <p className="muted text-sm">
          {bytesInWords(upload.bytes)}, {upload.format}; time: {upload.time}
          {upload.sampleRateHz !== null &&
            `, about ${printSignificant(upload.sampleRateHz, 3)} rows per second`}
        </p>
      </header>
      {known.length > 0 && (
        <p role="note" className="rounded-box border border-warning/60 bg-warning/8 p-3 text-sm">
          This file has already been imported as {known.map((k) => `“${k.name}”`).join(' and ')}.
        </p>
      )}
      <ProblemNote problem={problemOf(running.error)} />
      <div className="overflow-x-auto">
        <table className="table-sm table" aria-label="Columns of the file">
          <thead>
            <tr>
              <th className="pl-0">Column in the file</th>
              <th>Import as</th>
              <th className="text-right max-sm:hidden">First values</th>
            </tr>
          </thead>
          <tbody>
            {upload.columns.map((column, i) => (
              <tr key={i}>
                <th scope="row" className="pl-0">
                  {column.name}
                  <span className="num muted block text-xs font-normal sm:hidden">{firstValues(i)}</span>
                </th>
                <td>
                  <div className="flex flex-wrap gap-2">
                    <select
                      className="select select-sm w-40"
                      aria-label={`Import ${column.name} as`}
                      value={taken[i]!.name}
                      onChange={(e) => set(i, { name: e.target.value })}
                    >
                      <option value="">not imported</option>
                      {raw.map((r) => (
                        <option key={r} value={r}>
                          raw {r}
                        </option>
                      ))}
                      {!raw.includes(column.name) && <option value={column.name}>{column.name}</option>}
                    </select>
                    {taken[i]!.name !== '' && (
                      <UnitSelect
                        counts
                        className="select select-sm w-40"
                        aria-label={`Unit of ${column.name}`}
                        value={taken[i]!.unit}
                        onChange={(e) => set(i, { unit: e.target.value as UnitId })}
                      />
                    )}
                  </div>
                </td>
                <td className="num muted text-right text-xs max-sm:hidden">{firstValues(i)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {upload.issues.length > 0 && (
        <details className="text-sm">
          <summary className="cursor-pointer text-warning">Some of the first rows cannot be read</summary>
          <ul className="num muted mt-1 text-xs">
            {upload.issues.map((issue, i) => (
              <li key={i}>{issue.text}</li>
            ))}
          </ul>
        </details>
      )}
      {!body.columns.some((c) => raw.includes(c.name)) && (
        <p className="text-sm text-warning">
          No column is imported as a raw column of this gadget ({raw.join(', ')}), so no readings can be
          calculated.
        </p>
      )}
      <div className="flex flex-wrap items-center gap-3">
        <label className="flex items-center gap-2 text-sm">
          <span className="muted">Name</span>
          <input
            className="input input-sm w-64"
            value={name}
            maxLength={80}
            required
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <button
          className="btn btn-primary btn-sm"
          disabled={body.columns.length === 0 || name.trim() === '' || running.isLoading}
        >
          {known.length > 0 ? 'Import again' : 'Import'}
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          onClick={() => {
            void discard(upload.id);
            onDone(null);
          }}
        >
          Cancel import
        </button>
      </div>
    </form>
  );
}

function JobCard({ id, onEnd }: { id: string; onEnd(result: string | null): void }) {
  const { data: job } = useJobQuery(id, { pollingInterval: LOOK_MS });
  const [cancel] = useCancelJobMutation();
  const done = job?.state === 'done' ? job.result : null;
  useEffect(() => {
    if (done) onEnd(done);
    // Once, when it ends.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [done]);
  return (
    <section className="panel mb-4 grid gap-3" aria-label="Import">
      <h2 className="section-title">{job?.title ?? 'Import'}</h2>
      {job?.state === 'failed' || job?.state === 'cancelled' ? (
        <>
          <p role="alert" className="text-sm text-error">
            {job.state === 'cancelled'
              ? 'Import cancelled; nothing was saved.'
              : `${job.problem?.detail ?? 'Import failed.'} ${job.problem?.wayOut ?? ''}`}
          </p>
          <button type="button" className="btn btn-sm justify-self-start" onClick={() => onEnd(null)}>
            Back
          </button>
        </>
      ) : (
        <div role="status" className="flex flex-wrap items-center gap-3 text-sm">
          <progress className="progress progress-primary w-60" value={job?.progress ?? 0} max={1} />
          <span className="num">{Math.round(100 * (job?.progress ?? 0))} %</span>
          <span className="num muted">{job?.note}</span>
          <button type="button" className="btn btn-ghost btn-sm" onClick={() => void cancel(id)}>
            Cancel
          </button>
        </div>
      )}
    </section>
  );
}
