import { wrap, type Remote } from 'comlink';
import type { LineWork } from './line.worker.ts';

let worker: Remote<LineWork> | null = null;

/** The worker that runs lines over recordings, started on first use. */
export function lineWorker(): Remote<LineWork> {
  worker ??= wrap<LineWork>(new Worker(new URL('./line.worker.ts', import.meta.url), { type: 'module' }));
  return worker;
}
