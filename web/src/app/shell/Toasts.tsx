import { useEffect } from 'react';
import { useRestoreGadgetMutation } from '../../api/api.ts';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { toastClosed, type Toast } from '../toasts.ts';

export function Toasts() {
  const toasts = useAppSelector((state) => state.toasts);
  return (
    <div className="toast toast-end bottom-10 z-40" aria-live="polite">
      {toasts.map((toast) => (
        <ToastLine key={toast.id} toast={toast} />
      ))}
    </div>
  );
}

function ToastLine({ toast }: { toast: Toast }) {
  const dispatch = useAppDispatch();
  const [restore] = useRestoreGadgetMutation();
  useEffect(() => {
    const timer = setTimeout(() => dispatch(toastClosed(toast.id)), toast.restoreGadgetId ? 12_000 : 4000);
    return () => clearTimeout(timer);
  }, [dispatch, toast]);
  return (
    <div
      className={`alert max-w-sm text-sm shadow-lg ${toast.tone === 'trouble' ? 'border-error bg-base-100' : 'border-success bg-base-100'}`}
    >
      <span>{toast.text}</span>
      {toast.restoreGadgetId && (
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => {
            void restore(toast.restoreGadgetId!);
            dispatch(toastClosed(toast.id));
          }}
        >
          Undo
        </button>
      )}
      <button
        type="button"
        className="btn btn-ghost btn-xs"
        aria-label="Close"
        onClick={() => dispatch(toastClosed(toast.id))}
      >
        ✕
      </button>
    </div>
  );
}
