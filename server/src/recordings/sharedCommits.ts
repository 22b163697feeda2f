import type { Knex } from 'knex';
import { CHUNKS_AT_ONCE, writeChunks, type StoredChunk } from './sampleStore.ts';
import { turns } from './turns.ts';
import { writeStandings, type Standing } from './standings.ts';

/** What one recorder has to write. */
export interface RecorderCommit {
  /** Packed when it is asked for. */
  chunks(): StoredChunk[];
  readonly standing: Standing;
}

interface Waiting {
  readonly commit: RecorderCommit;
  done(): void;
  failed(error: unknown): void;
}

/** So long others may join a transaction that is about to begin. */
const GATHER_MS = 15;

type Commits = (commit: RecorderCommit) => Promise<void>;

const shared = new WeakMap<Knex, Commits>();

/**
 * Writes what many recorders have in one transaction and in few statements, since each alone would wait for the disk by
 * itself: two hundred of them would wait for it four hundred times a second. What fails together is tried once more alone,
 * so that one that cannot be written keeps none of the others.
 */
export function sharedCommits(knex: Knex): Commits {
  let run = shared.get(knex);
  if (!run) shared.set(knex, (run = gathering(knex)));
  return run;
}

function gathering(knex: Knex): Commits {
  let waiting: Waiting[] = [];
  let isBusy = false;

  async function flush(): Promise<void> {
    const now = waiting;
    waiting = [];
    try {
      await writeTogether(
        knex,
        now.map((w) => w.commit),
      );
      for (const w of now) w.done();
    } catch (error) {
      if (now.length === 1) now[0]!.failed(error);
      else for (const w of now) await writeTogether(knex, [w.commit]).then(w.done, w.failed);
    }
    if (waiting.length > 0) setTimeout(() => void flush(), GATHER_MS);
    else isBusy = false;
  }

  return (commit) =>
    new Promise((done, failed) => {
      waiting.push({ commit, done, failed });
      if (isBusy) return;
      isBusy = true;
      setTimeout(() => void flush(), GATHER_MS);
    });
}

function writeTogether(knex: Knex, commits: readonly RecorderCommit[]): Promise<void> {
  return knex.transaction(async (trx) => {
    let rows: StoredChunk[] = [];
    const letOthersIn = turns();
    for (const [i, commit] of commits.entries()) {
      rows.push(...commit.chunks());
      if (rows.length < CHUNKS_AT_ONCE && i < commits.length - 1) continue;
      await writeChunks(trx, rows);
      rows = [];
      await letOthersIn();
    }
    await writeStandings(
      trx,
      commits.map((c) => c.standing),
    );
  });
}
