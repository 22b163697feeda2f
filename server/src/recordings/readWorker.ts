import { parentPort, type MessagePort } from 'node:worker_threads';
import Database from 'better-sqlite3';
import type { Recording } from '@lucky-needle/core/model';
import { walkChunks, type Position } from './pieces.ts';
import { SampleSender } from './samplePort.ts';
import type { AskChunks } from './sampleStore.ts';

/** A database that is being put in order keeps those who read it waiting a moment. */
const BUSY_MS = 5000;

/** What the thread is told to read, and where to. */
export interface ToReader {
  readonly file: string;
  readonly recording: Pick<Recording, 'id' | 'pieces' | 'columns'>;
  readonly from: Position;
  readonly fromS: number;
  readonly to: MessagePort;
}

/** Reads recordings on a thread of its own, one after the other, by a connection that is there for each of them. */
const port = parentPort!;
port.on('message', async ({ file, recording, from, fromS, to }: ToReader) => {
  const database = new Database(file, { readonly: true, timeout: BUSY_MS });
  const prepared = new Map<string, Database.Statement>();
  const ask: AskChunks = (sql, values) => {
    const statement = prepared.get(sql) ?? database.prepare(sql);
    prepared.set(sql, statement);
    return statement.all(values) as Awaited<ReturnType<AskChunks>>;
  };
  try {
    await new SampleSender(to).sendAll(walkChunks(ask, recording, from, fromS, Infinity));
  } finally {
    database.close();
  }
  port.postMessage('done');
});
