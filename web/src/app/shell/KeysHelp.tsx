import { useRef } from 'react';
import { useKey } from './keys.ts';

const KEYS: readonly (readonly [string, string])[] = [
  ['?', 'This help'],
  ['1 … 9', 'Go to that step of the job'],
  ['0 … 9', 'Runs, while recording: label of the next trial, 0 for none'],
  ['Space', 'True-up: keep the point for the fit'],
  ['C', 'True-up: keep it as a check'],
  ['U / R', 'Line: undo, redo'],
  ['S', 'Line: save'],
  ['W', 'Go to the workshop'],
];

/** Opened by "?" anywhere, or by the foot line. */
export function KeysHelp() {
  const dialog = useRef<HTMLDialogElement>(null);
  useKey('?', () => dialog.current?.showModal());
  return (
    <dialog ref={dialog} id="keys-help" className="modal" aria-labelledby="keys-title">
      <div className="modal-box">
        <h2 id="keys-title" className="section-title mb-3">
          Keys
        </h2>
        <dl className="grid grid-cols-[6rem_1fr] gap-y-2 text-sm">
          {KEYS.map(([key, what]) => (
            <div key={key} className="contents">
              <dt>
                <kbd className="kbd kbd-sm">{key}</kbd>
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
        <p className="muted mt-3 text-xs">
          Tab moves through everything; Enter and Space press what has the focus.
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
