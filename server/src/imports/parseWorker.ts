import { parentPort } from 'node:worker_threads';
import type { DetectedFile } from '@lucky-needle/core/formats';
import { lookAtHead, type LookClock } from './lookAtFile.ts';
import { buffersOf, parseFile, type ParseTask, type RowBuffers } from './parseFile.ts';

/** Pieces on their way: the next is parsed while one is being stored, and no more pile up. */
const MOST_ON_THEIR_WAY = 8;

/** What the thread is told. */
export type ToWorker =
  /** A file to parse; growing ones are read as far as they are told to have come. */
  | { readonly kind: 'task'; readonly task: ParseTask; readonly growing: boolean }
  /** The head of a file to tell what it is. */
  | {
      readonly kind: 'look';
      readonly head: Uint8Array;
      readonly whole: boolean;
      readonly known: DetectedFile | null;
      readonly clock: LookClock;
    }
  /** Bytes of the growing file that are on disk, and whether that is all. */
  | { readonly kind: 'arrived'; readonly bytes: number; readonly whole: boolean }
  /** The buffers of a piece that was taken. */
  | { readonly kind: 'taken'; readonly rows: RowBuffers };

/** Parses files on a thread of its own, one after the other. Sends pieces, and null at the end of each file. */
const port = parentPort!;
let free: RowBuffers[] = [];
let onTheirWay = 0;
let arrivedBytes = 0;
let wake = () => {};
/** Until something is told. */
const told = () => new Promise<void>((done) => (wake = done));
port.on('message', (message: ToWorker) => {
  switch (message.kind) {
    case 'task':
      arrivedBytes = message.growing ? 0 : Infinity;
      return void parse(message.task);
    case 'look':
      return port.postMessage(lookAtHead(message.head, message.whole, message.known, message.clock));
    case 'arrived':
      arrivedBytes = message.whole ? Infinity : message.bytes;
      break;
    case 'taken':
      free.push(message.rows);
      onTheirWay--;
  }
  wake();
});

async function arrived(bytes: number): Promise<void> {
  while (arrivedBytes < bytes) await told();
}

async function parse(task: ParseTask): Promise<void> {
  free = [];
  for await (const piece of parseFile(task, () => free.pop(), arrived)) {
    port.postMessage(piece, buffersOf(piece.rows));
    onTheirWay++;
    while (onTheirWay >= MOST_ON_THEIR_WAY) await told();
  }
  while (onTheirWay > 0) await told();
  port.postMessage(null);
}
