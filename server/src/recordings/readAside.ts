import { MessageChannel, type MessagePort } from 'node:worker_threads';
import type { Knex } from 'knex';
import type { Recording } from '@lucky-needle/core/model';
import { databaseFile } from '../db/open.ts';
import { ASIDE, type Aside } from '../threads/aside.ts';
import { failureOf, isBuilt, keepThread, leaveThread, takeThread } from '../threads/spareThread.ts';
import { walkSamples, type Placed, type Position } from './pieces.ts';
import type { ToReader } from './readWorker.ts';
import { receiveSamples } from './samplePort.ts';
import { turns } from './turns.ts';

/** It holds a few chunks at a time. */
const LIMITS = { maxYoungGenerationSizeMb: 8, maxOldGenerationSizeMb: 128 };

export interface ReadingAside {
  /** The samples come over it. */
  readonly port: MessagePort;
  /** Rejects when the thread has failed. */
  readonly failed: Promise<never>;
  /** Ends it; a thread whose samples were all taken is kept for the next. */
  end(allTaken: boolean): Promise<void>;
}

/** Whether a recording is long enough to be read by a thread, and there is one. */
export const isReadAside = ({ sampleCount }: Recording, { reader, longSamples }: Aside): boolean =>
  sampleCount >= longSamples && isBuilt(reader);

/** Has a thread read and check all samples of a recording from a place on. */
export function readAside(
  knex: Knex,
  { id, pieces, columns }: Recording,
  from: Position,
  fromS: number,
  { reader }: Aside,
): ReadingAside {
  const worker = takeThread(reader, LIMITS);
  const { port1: port, port2: to } = new MessageChannel();
  const done = new Promise((resolve) => worker.once('message', resolve));
  const failed = failureOf(worker);
  const task: ToReader = { file: databaseFile(knex), recording: { id, pieces, columns }, from, fromS, to };
  worker.postMessage(task, [to]);
  return {
    port,
    failed,
    async end(allTaken) {
      const isSpare = allTaken && (await Promise.race([done.then(() => true), failed.catch(() => false)]));
      leaveThread(worker);
      if (isSpare) keepThread(worker, reader);
      else await worker.terminate();
    },
  };
}

/**
 * All samples of a recording from a time on, chunk by chunk: those of a long one are read and checked on a thread of its own
 * while what was read is worked on.
 * @throws {ProblemError} when a chunk no longer matches its checksum
 */
export async function* walkAside(
  knex: Knex,
  recording: Recording,
  fromS: number,
  aside = ASIDE,
): AsyncGenerator<Placed> {
  const begin: Position = { piece: 0, chunk: 0 };
  if (!isReadAside(recording, aside)) return yield* walkSamples(knex, recording, begin, fromS);
  const reading = readAside(knex, recording, begin, fromS, aside);
  const letOthersIn = turns();
  let allTaken = false;
  try {
    for await (const together of receiveSamples(reading.port, reading.failed)) {
      for (const placed of together) {
        yield placed;
        await letOthersIn();
      }
    }
    allTaken = true;
  } finally {
    await reading.end(allTaken);
  }
}
