import { useEffect } from 'react';
import { useRestoreGadgetMutation } from '../../api/gadgetApi.ts';
import { useRestoreRunMutation } from '../../api/runApi.ts';
import { useRestoreStudyMutation } from '../../api/studyApi.ts';
import { useRestoreOwnReferenceMutation, useRestorePartMutation } from '../../api/shelfApi.ts';
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
  const [restoreGadget] = useRestoreGadgetMutation();
  const [restorePart] = useRestorePartMutation();
  const [restoreRun] = useRestoreRunMutation();
  const [restoreStudy] = useRestoreStudyMutation();
  const [restoreReference] = useRestoreOwnReferenceMutation();
  const undo =
    toast.restoreGadgetId ??
    toast.restorePartId ??
    toast.restoreReferenceId ??
    toast.restoreRunId ??
    toast.restoreStudyId;
  useEffect(() => {
    const timer = setTimeout(() => dispatch(toastClosed(toast.id)), undo ? 12_000 : 4000);
    return () => clearTimeout(timer);
  }, [dispatch, toast.id, undo]);
  return (
    <div
      className={`alert max-w-sm text-sm shadow-lg ${toast.tone === 'trouble' ? 'border-error bg-base-100' : 'border-success bg-base-100'}`}
    >
      <span>{toast.text}</span>
      {undo && (
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => {
            if (toast.restoreGadgetId) void restoreGadget(toast.restoreGadgetId);
            if (toast.restorePartId) void restorePart(toast.restorePartId);
            if (toast.restoreReferenceId) void restoreReference(toast.restoreReferenceId);
            if (toast.restoreRunId) void restoreRun(toast.restoreRunId);
            if (toast.restoreStudyId) void restoreStudy(toast.restoreStudyId);
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
