import { MessageChannel, type MessagePort, type Worker } from 'node:worker_threads';
import type { Knex } from 'knex';
import type { Recording } from '@lucky-needle/core/model';
import { problemFrom } from '../http/problem.ts';
import { walkSamples } from '../recordings/pieces.ts';
import { isReadAside, readAside } from '../recordings/readAside.ts';
import type { Aside } from '../threads/aside.ts';
import { failureOf, isBuilt, keepThread, leaveThread, takeThread } from '../threads/spareThread.ts';
import { growView, placeOf, type KeepSegments, type ShortView } from './growView.ts';
import type { FromGrower, ToGrower } from './growWorker.ts';
import type { Told } from './told.ts';
import { readoutOf } from './segmentRun.ts';
import type { ViewStore } from './viewStore.ts';

const LIMITS = { maxYoungGenerationSizeMb: 16, maxOldGenerationSizeMb: 512 };
/** Threads that share the lines between them; one more reads. */
const MOST_GROWERS = 2;

type Keep = (id: string) => KeepSegments;

/**
 * Brings views up to the end of their recording, those that stand at the same place by one reading of its samples. Those of a
 * long one are made on threads: one reads, the others run a share of the lines each, and what is made is kept here.
 * @throws {LineError} when a line cannot run
 */
export async function growViews(
  knex: Knex,
  store: ViewStore,
  recording: Recording,
  short: readonly ShortView[],
  now: () => number,
  told: Told,
  aside: Aside,
): Promise<void> {
  for (const { channel } of short) readoutOf(recording, channel);
  const keep: Keep = (id) => (growth) => store.append(id, recording.id, growth, now());
  const beganS = recording.firstTimeS ?? 0;
  const lengthS = Math.max(1e-9, (recording.lastTimeS ?? 0) - beganS);
  const places = new Map<string, ShortView[]>();
  for (const view of short) {
    const { piece, chunk } = placeOf(view);
    places.set(`${piece}/${chunk}`, [...(places.get(`${piece}/${chunk}`) ?? []), view]);
  }
  const grow = isReadAside(recording, aside) && isBuilt(aside.grower) ? growOnThreads : growHere;
  let k = 0;
  for (const together of places.values()) {
    const before = k++;
    const reached = (timeS: number) => told((before + (timeS - beganS) / lengthS) / places.size);
    await grow(knex, recording, together, keep, reached, aside);
  }
}

/** @param reached told up to when it has come */
async function growHere(
  knex: Knex,
  recording: Recording,
  short: readonly ShortView[],
  keep: Keep,
  reached: (timeS: number) => void,
): Promise<void> {
  const growing = short.map((view) => growView(recording, view, keep(view.id)));
  for await (const { at, samples } of walkSamples(knex, recording, placeOf(short[0]!))) {
    for (const view of growing) await view.take(at, samples);
    reached(samples.times.at(-1)!);
  }
  for (const view of growing) await view.end();
}

/** The samples go from the thread that reads to one after the other of those that run lines. */
async function growOnThreads(
  knex: Knex,
  recording: Recording,
  short: readonly ShortView[],
  keep: Keep,
  reached: (timeS: number) => void,
  aside: Aside,
): Promise<void> {
  const { grower } = aside;
  const reading = readAside(knex, recording, placeOf(short[0]!), -Infinity, aside);
  const each = Math.ceil(short.length / MOST_GROWERS);
  const workers: Worker[] = [];
  const work: Promise<void>[] = [];
  // Where one fails, what is being kept of others is waited for: whoever asks next goes on from it.
  const kept: Promise<void>[] = [];
  const keeping: Keep = (id) => (growth) => {
    const done = keep(id)(growth);
    kept.push(done);
    return done;
  };
  let allTaken = false;
  try {
    let from: MessagePort = reading.port;
    for (let k = 0; k < short.length; k += each) {
      const worker = takeThread(grower, LIMITS);
      workers.push(worker);
      const isLast = k + each >= short.length;
      const { port1, port2 } = new MessageChannel();
      const task: ToGrower = {
        kind: 'grow',
        recording,
        views: short.slice(k, k + each),
        from,
        to: isLast ? null : port2,
      };
      worker.postMessage(task, isLast ? [from] : [from, port2]);
      work.push(follow(worker, keeping, isLast ? reached : () => undefined));
      from = port1;
    }
    await Promise.race([reading.failed, Promise.all(work)]);
    allTaken = true;
  } finally {
    await reading.end(allTaken);
    for (const worker of workers) {
      leaveThread(worker);
      if (allTaken) keepThread(worker, grower);
      else await worker.terminate();
    }
    await Promise.allSettled(kept);
  }
}

/** Keeps what a thread makes, until it has made all. */
async function follow(worker: Worker, keep: Keep, reached: (timeS: number) => void): Promise<void> {
  const done = new Promise<void>((resolve, reject) => {
    worker.on('message', (message: FromGrower) => void take(message).catch(reject));
    async function take(message: FromGrower): Promise<void> {
      if (message.kind === 'done') return resolve();
      if (message.kind === 'reached') return reached(message.timeS);
      if (message.kind === 'problem') throw problemFrom(message.problem);
      await keep(message.id)(message.growth);
      worker.postMessage({ kind: 'kept' } satisfies ToGrower);
    }
  });
  await Promise.race([done, failureOf(worker)]);
}
