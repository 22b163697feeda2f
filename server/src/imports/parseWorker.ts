import { parentPort } from 'node:worker_threads';
import { buffersOf, parseFile, type ParseTask, type RowBuffers } from './parseFile.ts';

/** Pieces on their way: the next is parsed while one is being stored, and no more pile up. */
const MOST_ON_THEIR_WAY = 8;

/** What the thread is told: a file to parse, or the buffers of a piece that was taken. */
export type ToWorker =
  { readonly task: ParseTask; readonly rows?: never } | { readonly rows: RowBuffers; readonly task?: never };

/** Parses files on a thread of its own, one after the other. Sends pieces, and null at the end of each file. */
const port = parentPort!;
let free: RowBuffers[] = [];
let onTheirWay = 0;
let wake = () => {};
/** Until a piece was taken. */
const taken = () => new Promise<void>((done) => (wake = done));
port.on('message', ({ task, rows }: ToWorker) => {
  if (rows) {
    free.push(rows);
    onTheirWay--;
    wake();
  } else void parse(task);
});

async function parse(task: ParseTask): Promise<void> {
  free = [];
  for await (const piece of parseFile(task, () => free.pop())) {
    port.postMessage(piece, buffersOf(piece.rows));
    onTheirWay++;
    while (onTheirWay >= MOST_ON_THEIR_WAY) await taken();
  }
  while (onTheirWay > 0) await taken();
  port.postMessage(null);
}
