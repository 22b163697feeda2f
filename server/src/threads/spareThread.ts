import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Worker, type ResourceLimits } from 'node:worker_threads';

/** So long a thread waits for more work: the first one pays for its start. */
const IDLE_MS = 60_000;

const spare = new Map<string, { readonly worker: Worker; readonly timer: NodeJS.Timeout }>();

/** Threads stand beside the program where it is built; run from its sources, their work is done on the spot. */
export const isBuilt = (program: URL): boolean => existsSync(fileURLToPath(program));

/** The thread of a program that waits, or a new one. */
export function takeThread(program: URL, resourceLimits: ResourceLimits): Worker {
  const waiting = spare.get(program.href);
  if (!waiting) return new Worker(program, { resourceLimits });
  spare.delete(program.href);
  clearTimeout(waiting.timer);
  waiting.worker.ref();
  return waiting.worker;
}

/** Lets a thread wait for more work for a while, unless one waits already; it keeps nothing from ending. */
export function keepThread(worker: Worker, program: URL): void {
  const { href } = program;
  worker.unref();
  if (spare.has(href)) return void worker.terminate();
  const timer = setTimeout(() => {
    spare.delete(href);
    void worker.terminate();
  }, IDLE_MS);
  timer.unref();
  worker.once('exit', () => {
    if (spare.get(href)?.worker === worker) spare.delete(href);
  });
  spare.set(href, { worker, timer });
}

/** Rejects when a thread throws or ends. */
export function failureOf(worker: Worker): Promise<never> {
  const failed = new Promise<never>((_, reject) => {
    worker.once('error', reject);
    worker.once('exit', () => reject(new Error('A worker thread stopped unexpectedly.')));
  });
  // Whoever waits for it is told; nobody may be waiting any more.
  failed.catch(() => undefined);
  return failed;
}

/**
 * Stops listening to a thread: all listeners at once would take away those that the thread itself needs. What it may still
 * throw is nobody's any more; without anyone to take it, it would end the program.
 */
export function leaveThread(worker: Worker): void {
  for (const name of ['message', 'error', 'exit']) worker.removeAllListeners(name);
  worker.on('error', () => undefined);
}
