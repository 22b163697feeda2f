import { Link, useRouteError } from 'react-router';

/** Shown when a page breaks: says so, keeps the way out open. */
export function CrashPage() {
  const error = useRouteError();
  return (
    <main className="mx-auto max-w-xl p-8" role="alert">
      <h1>Something went wrong on this page</h1>
      <p className="muted mt-2">Stored data is safe, and recording continues. Details:</p>
      <pre className="num mt-2 overflow-x-auto rounded-box bg-base-200 p-3 text-xs">
        {error instanceof Error ? error.message : String(error)}
      </pre>
      <div className="mt-4 flex gap-2">
        <button type="button" className="btn btn-primary" onClick={() => location.reload()}>
          Reload the page
        </button>
        <Link to="/" className="btn">
          Go to the workshop
        </Link>
      </div>
    </main>
  );
}
