import { proxy } from 'comlink';
import { useEffect, useState } from 'react';
import type { LineSpec, Recording } from '@lucky-needle/core/model';
import { recordingWorker } from '../../workers/recordingWorker.ts';
import type { RecordingView, ViewWanted } from '../../workers/recordingView.ts';

export interface ShownView {
  /** The newest finished view; the one before stays until the next is ready. */
  readonly view: (RecordingView & { readonly wanted: ViewWanted }) | null;
  /** What is being done and how much of it is done; null when nothing is. */
  readonly doing: { readonly what: string; readonly share: number } | null;
  readonly error: string | null;
  cancel(): void;
}

const POINTS = 2000;

/** A stretch of a recording after chosen stages, worked out in a worker; a newer wish ends an older one. */
export function useRecordingView(
  recording: Recording | null,
  spec: LineSpec,
  taps: readonly number[],
  window: { readonly fromS: number; readonly toS: number },
): ShownView {
  const [view, setView] = useState<ShownView['view']>(null);
  const [doing, setDoing] = useState<ShownView['doing']>(null);
  const [error, setError] = useState<string | null>(null);
  const key = JSON.stringify([
    spec,
    taps,
    window,
    recording?.id,
    recording?.sampleCount,
    recording?.firstTimeS,
  ]);
  useEffect(() => {
    if (!recording) return;
    let current = true;
    const wanted: ViewWanted = { spec, taps, ...window, points: POINTS };
    setError(null);
    const told = proxy((what: 'fetching' | 'converting', share: number) => {
      if (!current) return;
      setDoing({ what: what === 'fetching' ? 'Fetching the readings' : 'Converting', share });
    });
    recordingWorker()
      .view(recording, wanted, told)
      .then(
        (found) => {
          if (!current) return;
          setDoing(null);
          if (found) setView({ ...found, wanted });
        },
        (failure: unknown) => {
          if (!current) return;
          setDoing(null);
          setError((failure as Error).message);
        },
      );
    return () => {
      current = false;
    };
    // The key holds everything that is looked at.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return {
    view,
    doing,
    error,
    cancel() {
      void recordingWorker().cancel();
      setDoing(null);
    },
  };
}
