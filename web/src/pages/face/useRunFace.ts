import { useEffect, useMemo, useState } from 'react';
import type { Frames, Recording } from '@lucky-needle/core/model';
import { facesOfRun } from '../../api/faceFrames.ts';
import { useBench } from '../../app/useBench.ts';
import { faceOfFrame, shownChannels, type FrameFace } from './faceOfFrame.ts';

/** Moments of a run that are looked at. */
const FRAMES = 300;

export interface RunFace {
  readonly frames: Frames | null;
  /** How much of it is worked out. */
  readonly share: number;
  readonly trouble: string | null;
}

/** A run as its face would have shown it, once the server has worked it out. */
export function useRunFace(run: Recording | null): RunFace {
  const { gadget } = useBench();
  const [told, setTold] = useState<RunFace & { readonly of: string }>(NOTHING);
  const key = run ? `${run.id} ${gadget.version}` : '';
  useEffect(() => {
    if (!run) return;
    const abort = new AbortController();
    const tell = (part: Partial<RunFace>) =>
      abort.signal.aborted || setTold({ frames: null, share: 0, trouble: null, ...part, of: key });
    facesOfRun(run.id, FRAMES, abort.signal, (share) => tell({ share })).then(
      (frames) => tell({ frames }),
      (error: Error) => tell({ trouble: error.message }),
    );
    return () => abort.abort();
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return told.of === key ? told : NOTHING;
}

const NOTHING = { frames: null, share: 0, trouble: null, of: '' };

/** What a face can show of a run at one of its moments; null before it is worked out. */
export function useFaceOfRun({ frames }: RunFace, at: number): FrameFace | null {
  const { gadget, calibrations } = useBench();
  const known = useMemo(() => shownChannels(gadget, calibrations), [gadget, calibrations]);
  return useMemo(() => {
    const frame = frames?.frames[at];
    if (!frames || !frame) return null;
    return faceOfFrame(gadget, known, frame, frames.events, frames.frames.slice(0, at + 1));
  }, [frames, at, known, gadget]);
}
