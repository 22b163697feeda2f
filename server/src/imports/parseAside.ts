import type { DetectedFile } from '@lucky-needle/core/formats';
import type { Arrival } from './arrival.ts';
import { lookAtHead, type LookClock, type LookedAt } from './lookAtFile.ts';
import { isBuilt, keepThread, leaveThread, takeThread } from '../threads/spareThread.ts';
import { buffersOf, parseFile, type ParsedPiece, type ParseTask } from './parseFile.ts';
import type { ToWorker } from './parseWorker.ts';

const WORKER = new URL('./parseWorker.mjs', import.meta.url);
/** Young objects are few and short-lived there: a small nursery keeps the memory of large files low. */
const LIMITS = { maxYoungGenerationSizeMb: 8, maxOldGenerationSizeMb: 512 };

/** A piece of a whole file takes a fraction of a second. */
const HANGS_MS = 60_000;
const STANDS_STILL = 'Reading the file made no progress for a minute.';
/** Telling what a file is takes milliseconds. */
const LOOK_MS = 10_000;

/**
 * Parses a file on a thread of its own, so that links and pages are served meanwhile. Ends the thread when the caller stops
 * taking pieces. A piece is used up once the next is asked for.
 * @param arrival of the file, where it may not be whole yet: it is parsed as far as it has come
 * @param signal ends it, also where the thread hangs
 * @throws whatever the file's reader or its arrival throws
 */
export function parseAside(
  task: ParseTask,
  arrival: Arrival | null = null,
  signal: AbortSignal | null = null,
  program = WORKER,
): AsyncGenerator<ParsedPiece> {
  return isBuilt(program)
    ? onThread(task, arrival, signal, program)
    : parseFile(task, undefined, arrival ? (bytes) => arrival.atLeast(bytes) : undefined);
}

/** Tells what a file is, on the thread: text that makes the looking hang keeps nobody waiting. */
export async function lookAside(
  head: Uint8Array,
  whole: boolean,
  known: DetectedFile | null,
  clock: LookClock,
  program = WORKER,
  deadlineMs = LOOK_MS,
): Promise<LookedAt> {
  if (!isBuilt(program)) return lookAtHead(head, whole, known, clock);
  const worker = takeThread(program, LIMITS);
  const found = await new Promise<LookedAt | null>((done) => {
    const timer = setTimeout(() => done(null), deadlineMs);
    const end = (value: LookedAt | null) => {
      clearTimeout(timer);
      done(value);
    };
    worker.once('message', end);
    worker.once('error', () => end(null));
    worker.once('exit', () => end(null));
    worker.postMessage({ kind: 'look', head, whole, known, clock } satisfies ToWorker);
  });
  leaveThread(worker);
  if (found) keepThread(worker, program);
  else await worker.terminate();
  return found ?? { problem: 'The file could not be analysed: reading it takes too long.' };
}

async function* onThread(
  task: ParseTask,
  arrival: Arrival | null,
  signal: AbortSignal | null,
  program: URL,
): AsyncGenerator<ParsedPiece> {
  const worker = takeThread(program, LIMITS);
  const tell = (message: ToWorker, hand: ArrayBuffer[] = []) => worker.postMessage(message, hand);
  const waiting: (ParsedPiece | null)[] = [];
  let failure: Error | null = null;
  let wake = () => {};
  worker.on('message', (piece: ParsedPiece | null) => {
    waiting.push(piece);
    wake();
  });
  const fail = (error: Error) => {
    failure ??= error;
    wake();
  };
  worker.on('error', fail);
  worker.on('exit', () => fail(new Error('Reading the file stopped unexpectedly.')));
  const abort = () => fail(new Error('Reading the file was cancelled.'));
  signal?.addEventListener('abort', abort);
  if (signal?.aborted) abort();
  tell({ kind: 'task', task, growing: arrival !== null });
  let [done, over] = [false, false];
  const follow = async (from: Arrival) => {
    while (!over) {
      const [bytes, whole] = [from.bytes, from.isWhole];
      tell({ kind: 'arrived', bytes, whole });
      if (whole) return;
      await from.atLeast(bytes + 1);
    }
  };
  if (arrival) follow(arrival).catch(fail);
  try {
    for (;;) {
      if (signal?.aborted) throw failure!;
      const piece = waiting.shift();
      if (piece === null) {
        done = true;
        return;
      }
      if (piece) {
        yield piece;
        tell({ kind: 'taken', rows: piece.rows }, buffersOf(piece.rows));
      } else if (failure) throw failure as Error;
      else {
        const isWhole = arrival === null || arrival.isWhole;
        const hangs = setTimeout(() => isWhole && fail(new Error(STANDS_STILL)), HANGS_MS);
        await new Promise<void>((next) => (wake = next));
        clearTimeout(hangs);
      }
    }
  } finally {
    over = true;
    signal?.removeEventListener('abort', abort);
    leaveThread(worker);
    if (done) keepThread(worker, program);
    else await worker.terminate();
  }
}
