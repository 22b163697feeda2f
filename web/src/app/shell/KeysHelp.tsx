import { useRef } from 'react';
import { Link } from 'react-router';
import { useKey } from './keys.ts';
import { KeyTable } from './KeyTable.tsx';

/** Opened by "?" anywhere, or by the foot line. */
export function KeysHelp() {
  const dialog = useRef<HTMLDialogElement>(null);
  useKey('?', () => dialog.current?.showModal());
  return (
    <dialog ref={dialog} id="keys-help" className="modal" aria-labelledby="keys-title">
      <div className="modal-box max-w-2xl">
        <h2 id="keys-title" className="section-title mb-3">
          Keyboard shortcuts
        </h2>
        <KeyTable />
        <p className="muted mt-3 text-xs">
          Tab moves between controls; Enter or Space activates the focused one. Terms are explained on the{' '}
          <Link className="link" to="/help" onClick={() => dialog.current?.close()}>
            Help page
          </Link>
          .
        </p>
        <form method="dialog" className="modal-action">
          <button className="btn btn-sm">Close</button>
        </form>
      </div>
      <form method="dialog" className="modal-backdrop">
        <button tabIndex={-1}>Close</button>
      </form>
    </dialog>
  );
}
