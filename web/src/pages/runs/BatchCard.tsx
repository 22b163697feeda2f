import type { BatchFile, BatchState } from './batch.ts';

interface Props {
  readonly files: readonly BatchFile[];
  onStop(): void;
  onClose(): void;
}

const TONE: Record<BatchState, string> = {
  waiting: 'muted',
  working: '',
  imported: 'text-success',
  'already imported': 'muted',
  'not imported': 'text-warning',
};

/** Files that come in one after the other, and what became of each. */
export function BatchCard({ files, onStop, onClose }: Props) {
  const of = (state: BatchState) => files.filter((f) => f.state === state).length;
  const isOver = of('waiting') + of('working') === 0;
  return (
    <section className="panel mb-4 grid gap-3" aria-label="Batch import">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">
          {of('imported')} of {files.length} files imported
          {of('already imported') > 0 && `, ${of('already imported')} already imported`}
          {of('not imported') > 0 && `, ${of('not imported')} not imported`}
        </h2>
        {isOver ? (
          <button type="button" className="btn btn-sm" onClick={onClose}>
            Done
          </button>
        ) : (
          <>
            <progress
              className="progress progress-primary w-40"
              aria-label="Import progress"
              value={files.length - of('waiting') - of('working')}
              max={files.length}
            />
            <button type="button" className="btn btn-ghost btn-sm" onClick={onStop}>
              Stop after this file
            </button>
          </>
        )}
      </header>
      <ul className="grid max-h-64 gap-1 overflow-y-auto text-sm">
        {files.map((f, k) => (
          <li key={k} className="flex flex-wrap gap-x-3">
            <span className="min-w-40 font-semibold">{f.name}</span>
            <span className={TONE[f.state]}>
              {f.state}
              {f.note !== '' && `: ${f.note}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
