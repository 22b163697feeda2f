import { useRef } from 'react';
import { Upload } from 'lucide-react';
import { useImportPartsMutation } from '../../api/shelfApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** Takes a file of parts and says what came in and which rows did not, with the reason of each. */
export function ImportPanel() {
  const [importFile, { data, error, isLoading, reset }] = useImportPartsMutation();
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        className="btn btn-sm"
        disabled={isLoading}
        onClick={() => input.current?.click()}
      >
        <Upload className="size-4" aria-hidden /> {isLoading ? 'Reading…' : 'Import'}
      </button>
      <input
        ref={input}
        type="file"
        className="sr-only"
        aria-label="Parts file (CSV or JSON)"
        tabIndex={-1}
        accept=".csv,.json,text/csv,application/json"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void importFile(file);
          event.target.value = '';
        }}
      />
      {(data || error) && (
        <section className="panel basis-full" aria-label="Import result" role="status">
          <header className="flex items-baseline justify-between gap-3">
            <h2 className="section-title">{data ? summary(data) : 'The file could not be read'}</h2>
            <button type="button" className="btn btn-ghost btn-xs" onClick={reset}>
              Close
            </button>
          </header>
          <ProblemNote problem={problemOf(error)} />
          {data && data.issues.length > 0 && (
            <>
              <p className="muted mt-1 text-sm">
                Row 1 is the first row below the header. Correct the rows listed and import the file again;
                parts that already exist are replaced.
              </p>
              <div className="mt-2 overflow-x-auto">
                <table className="table-sm table">
                  <thead>
                    <tr>
                      <th className="pl-0">Row</th>
                      <th>Field</th>
                      <th>Problem</th>
                    </tr>
                  </thead>
                  <tbody>
                    {data.issues.map((issue, i) => (
                      <tr key={i}>
                        <td className="num pl-0">{issue.row === 0 ? '–' : issue.row}</td>
                        <td>{issue.field || '–'}</td>
                        <td>{issue.message}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
            </>
          )}
        </section>
      )}
    </>
  );
}

function summary({
  added,
  replaced,
  issues,
}: {
  added: string[];
  replaced: string[];
  issues: { row: number }[];
}) {
  const bad = new Set(issues.map((i) => i.row)).size;
  const parts = [
    added.length > 0 ? `${added.length} added` : '',
    replaced.length > 0 ? `${replaced.length} replaced` : '',
    bad > 0 ? `${bad} row${bad > 1 ? 's' : ''} skipped` : '',
  ].filter(Boolean);
  return parts.length > 0 ? `Parts: ${parts.join(', ')}` : 'No parts found in the file';
}
