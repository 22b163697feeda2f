import { wrap, type Remote } from 'comlink';
import type { BenchWork } from './bench.worker.ts';

let worker: Remote<BenchWork> | null = null;

/** The worker for what takes the page too long, started on first use. */
export function benchWorker(): Remote<BenchWork> {
  worker ??= wrap<BenchWork>(new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' }));
  return worker;
}
