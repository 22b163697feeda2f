import { problemOf } from '../api/problemOf.ts';
import { useDamagedQuery, useDeleteDamagedMutation } from '../api/workspaceApi.ts';
import { ProblemNote } from './ProblemNote.tsx';

/** What is damaged in the database, of one gadget or of all: taken out as it is, or deleted. Nothing where nothing is. */
export function DamagedRows({ gadgetId }: { gadgetId?: string }) {
  const { data } = useDamagedQuery();
  const [remove, { error }] = useDeleteDamagedMutation();
  const rows = data?.filter((row) => gadgetId === undefined || row.gadgetId === gadgetId) ?? [];
  if (rows.length === 0) return null;
  return (
    <section className="panel mb-4 grid gap-2 border-warning/60" aria-label="Damaged data">
      <h2 className="section-title">Damaged data</h2>
      <p className="muted text-sm">
        {rows.length === 1 ? 'This item cannot' : 'These items cannot'} be displayed; everything else still
        works. An earlier backup may contain an undamaged copy.
      </p>
      <ProblemNote problem={problemOf(error)} />
      <ul className="grid gap-2">
        {rows.map((row) => (
          <li
            key={`${row.table} ${row.id}`}
            className="flex flex-wrap items-center justify-between gap-2 text-sm"
          >
            <span className="min-w-0">
              {row.what} “{row.name}”<span className="muted block text-xs break-words">{row.why}</span>
            </span>
            <span className="flex gap-1">
              <a
                className="btn btn-ghost btn-sm"
                href={`/api/damaged/${row.table}/${encodeURIComponent(row.id)}`}
                download
              >
                Download contents
              </a>
              <button
                type="button"
                className="btn btn-ghost btn-sm"
                aria-label={`Delete damaged ${row.what} ${row.name}`}
                onClick={() => void remove(row)}
              >
                Delete
              </button>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
