import { Link, useLocation } from 'react-router';

export function NotFound() {
  const { pathname } = useLocation();
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1>Page not found</h1>
      <p className="muted mt-2">
        There is no page at <span className="num break-all">{pathname}</span>. It may have been renamed, or
        the gadget deleted.
      </p>
      <Link to="/" className="btn btn-primary mt-4">
        Go to the workshop
      </Link>
    </main>
  );
}
