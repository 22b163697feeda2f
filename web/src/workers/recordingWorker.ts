import { wrap, type Remote } from 'comlink';
import type { RecordingWork } from './recording.worker.ts';

let worker: Remote<RecordingWork> | null = null;

/** The worker that holds one recording and runs lines over it, started on first use. */
export function recordingWorker(): Remote<RecordingWork> {
  worker ??= wrap<RecordingWork>(
    new Worker(new URL('./recording.worker.ts', import.meta.url), { type: 'module' }),
  );
  return worker;
}
