import type { Knex } from 'knex';

type Work = (trx: Knex.Transaction) => Promise<void>;

interface Waiting {
  readonly work: Work;
  done(): void;
  failed(error: unknown): void;
}

/** The database answers at once, so that nothing else has its turn in between unless it is given one. */
const AT_ONCE_MS = 8;
/** So long others may join a transaction that is about to begin. */
const GATHER_MS = 15;

const shared = new WeakMap<Knex, (work: Work) => Promise<void>>();

/**
 * Runs what many recorders have to write in one transaction, since each alone would wait for the disk by itself: two
 * hundred of them would wait for it four hundred times a second. What fails together is tried once more alone, so that one
 * that cannot be written keeps none of the others.
 */
export function sharedCommits(knex: Knex): (work: Work) => Promise<void> {
  let run = shared.get(knex);
  if (!run) shared.set(knex, (run = gathering(knex)));
  return run;
}

function gathering(knex: Knex): (work: Work) => Promise<void> {
  let waiting: Waiting[] = [];
  let isBusy = false;

  async function flush(): Promise<void> {
    const now = waiting;
    waiting = [];
    try {
      await knex.transaction(async (trx) => {
        let since = performance.now();
        for (const { work } of now) {
          await work(trx);
          if (performance.now() - since < AT_ONCE_MS) continue;
          await new Promise((done) => setImmediate(done));
          since = performance.now();
        }
      });
      for (const w of now) w.done();
    } catch (error) {
      if (now.length === 1) now[0]!.failed(error);
      else for (const w of now) await knex.transaction(w.work).then(w.done, w.failed);
    }
    if (waiting.length > 0) setTimeout(() => void flush(), GATHER_MS);
    else isBusy = false;
  }

  return (work) =>
    new Promise((done, failed) => {
      waiting.push({ work, done, failed });
      if (isBusy) return;
      isBusy = true;
      setTimeout(() => void flush(), GATHER_MS);
    });
}
