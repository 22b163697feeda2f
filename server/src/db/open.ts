import { copyFileSync, existsSync, mkdirSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import Database from 'better-sqlite3';
import knexFactory, { type Knex } from 'knex';
import { MIGRATIONS } from './migrations.ts';

/** A data folder that cannot be used; the message says why and the way out. */
export class DataFolderError extends Error {
  override readonly name = 'DataFolderError';
}

export interface OpenDatabase {
  readonly knex: Knex;
  /** Copies the whole database to a file, a piece at a time, while it is written to. */
  copyTo(path: string): Promise<void>;
  /** Why the file is not where it should be, in words; null when it is. */
  misplaced(): string | null;
  /**
   * Checks another database and brings it up to this version.
   * @param check looks at its rows then @throws when it is damaged or newer, or holds more than tables of a workspace
   */
  prepareForeign(path: string, check: (knex: Knex) => Promise<void>): Promise<void>;
  /** Takes over every row of a prepared database in place of its own, all or nothing. */
  takeOver(path: string): void;
  close(): Promise<void>;
}

/** The file that a pool has opened. */
export const databaseFile = (knex: Knex): string =>
  (knex.client as { config: { connection: { filename: string } } }).config.connection.filename;

const FILE = 'lucky-needle.sqlite';
/** Copied in one go, between looks at everything else: about four megabytes. */
const PAGES_A_STEP = 250;

/**
 * Opens the workspace: takes the folder for itself, refuses a newer database, backs up before a migration.
 * @throws {DataFolderError} when the folder is in use, cannot be written, or holds a newer database
 */
export async function openDatabase(dataDir: string): Promise<OpenDatabase> {
  const release = takeFolder(dataDir);
  const file = join(dataDir, FILE);
  try {
    await backUpBeforeMigration(file);
  } catch (error) {
    release();
    throw error;
  }
  let connection: Database.Database | null = null;
  const knex = knexFactory({
    client: 'better-sqlite3',
    connection: { filename: file },
    useNullAsDefault: true,
    // What it warns of is thrown as well, and told in words there.
    log: { warn: () => undefined },
    pool: {
      min: 1,
      max: 1,
      afterCreate(conn: Database.Database, done: (error: Error | null, conn: Database.Database) => void) {
        try {
          connection = conn;
          // Chunks are long: larger pages take a quarter less time to write. A file that is there keeps its own.
          conn.pragma('page_size = 16384');
          conn.pragma('journal_mode = WAL');
          conn.pragma('synchronous = FULL');
          // Many recorders write the same pages again and again: moved into the database now and then, not each time.
          conn.pragma('wal_autocheckpoint = 4000');
          conn.pragma('foreign_keys = ON');
          // Waiting for a lock blocks the whole server, so give up soon and let the caller try again.
          conn.pragma('busy_timeout = 250');
          done(null, conn);
        } catch (error) {
          conn.close();
          done(error as Error, conn);
        }
      },
    },
  });
  try {
    await migrate(knex);
  } catch (error) {
    await knex.destroy();
    release();
    throw isFull(error) ? diskFull(dataDir) : error;
  }
  const inode = statSync(file).ino;
  return {
    knex,
    async copyTo(path) {
      // By the very connection that writes: what it writes meanwhile goes into the copy as well.
      await connection!.backup(path, { progress: () => PAGES_A_STEP });
    },
    misplaced() {
      let now: number | null = null;
      try {
        now = statSync(file).ino;
      } catch {
        // Told below.
      }
      return now === inode
        ? null
        : `${file} was moved or deleted. New data goes to the moved file, not to this folder. Move it back to this folder.`;
    },
    async prepareForeign(path, check) {
      checkForeign(path, tablesOf(connection!));
      const foreign = knexFactory({
        client: 'better-sqlite3',
        connection: { filename: path },
        useNullAsDefault: true,
      });
      try {
        await migrate(foreign);
        await check(foreign);
      } finally {
        await foreign.destroy();
      }
    },
    takeOver: (path) => takeOver(connection!, path),
    async close() {
      await knex.destroy();
      release();
    },
  };
}

/** An exclusive lock on a file of its own: the system lets go of it however the process ends. */
function takeFolder(dataDir: string): () => void {
  try {
    makeFolder(dataDir);
    const lock = new Database(join(dataDir, 'in-use.lock'), { timeout: 200 });
    lock.pragma('locking_mode = EXCLUSIVE');
    lock.exec('BEGIN EXCLUSIVE');
    return () => lock.close();
  } catch (error) {
    const code = (error as { code?: string }).code ?? '';
    if (code.startsWith('SQLITE_BUSY')) {
      throw new DataFolderError(
        `Another Lucky Needle server is using ${dataDir}. Stop it, or set LUCKY_NEEDLE_DATA to another folder.`,
      );
    }
    if (isFull(error)) throw diskFull(dataDir);
    throw new DataFolderError(
      `Cannot use the data folder ${dataDir} (${code || (error as Error).message}). Check its permissions, or set LUCKY_NEEDLE_DATA to another folder.`,
    );
  }
}

/** One level at a time: Node's own recursive mkdir never returns for some paths that cannot be made, such as below /proc. */
function makeFolder(path: string): void {
  if (existsSync(path)) return;
  makeFolder(dirname(path));
  mkdirSync(path);
}

/** Whether the disk had no room for what was to be written. */
function isFull(error: unknown): boolean {
  const code = (error as { code?: string }).code ?? '';
  return code.startsWith('SQLITE_FULL') || code === 'ENOSPC' || code === 'EDQUOT';
}

const diskFull = (dataDir: string) =>
  new DataFolderError(
    `The disk with ${dataDir} is full. Free some space and start again, or set LUCKY_NEEDLE_DATA to a folder on another disk. Stored data is intact.`,
  );

/** A copy that could not be made whole takes up no room. */
function copyWhole(from: string, to: string): void {
  try {
    copyFileSync(from, to);
  } catch (error) {
    rmSync(to, { force: true });
    throw error;
  }
}

async function backUpBeforeMigration(file: string): Promise<void> {
  if (!existsSync(file)) return;
  const database = new Database(file, { timeout: 2000 });
  try {
    const version = database.pragma('user_version', { simple: true }) as number;
    if (version > MIGRATIONS.length) {
      throw new DataFolderError(
        `${file} was created by a newer Lucky Needle (database version ${version}; this one supports up to ${MIGRATIONS.length}). Update Lucky Needle, or set LUCKY_NEEDLE_DATA to another folder. Nothing was changed.`,
      );
    }
    if (version < MIGRATIONS.length) {
      database.pragma('wal_checkpoint(TRUNCATE)');
      copyWhole(file, `${file}.before-${version + 1}`);
    }
  } catch (error) {
    if (error instanceof DataFolderError) throw error;
    if (isFull(error)) throw diskFull(dirname(file));
    throw new DataFolderError(
      `${file} is not a readable database (${(error as Error).message}). Move it away, or restore a backup.`,
    );
  } finally {
    database.close();
  }
}

async function migrate(knex: Knex): Promise<void> {
  const [{ user_version: version }] = (await knex.raw('PRAGMA user_version')) as [{ user_version: number }];
  for (let next = version; next < MIGRATIONS.length; next++) {
    await knex.transaction(async (trx) => {
      await MIGRATIONS[next]!.up(trx);
      await trx.raw(`PRAGMA user_version = ${next + 1}`);
    });
  }
}

const tablesOf = (database: Database.Database) =>
  database
    .prepare(`SELECT name FROM main.sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`)
    .pluck()
    .all() as string[];

/** @param known tables that a workspace has @throws {Error} with what is wrong */
function checkForeign(path: string, known: readonly string[]): void {
  const foreign = new Database(path, { timeout: 2000 });
  try {
    foreign.pragma('trusted_schema = OFF');
    foreign.pragma('cell_size_check = ON');
    // Before anything is read: a view or a trigger is a program of whoever made the file.
    const objects = foreign
      .prepare(`SELECT type, name, sql FROM sqlite_master WHERE name NOT LIKE 'sqlite_%'`)
      .all() as { type: string; name: string; sql: string | null }[];
    for (const { type, name, sql } of objects) {
      const isPlain = (type === 'table' && known.includes(name)) || type === 'index';
      if (!isPlain || /^\s*CREATE\s+VIRTUAL/i.test(sql ?? ''))
        throw new Error(`it contains a ${type} "${name.slice(0, 60)}", which is not part of a workspace`);
    }
    const [{ integrity_check: told }] = foreign.pragma('integrity_check') as [{ integrity_check: string }];
    if (told !== 'ok') throw new Error(told);
    const version = foreign.pragma('user_version', { simple: true }) as number;
    if (version < 1 || version > MIGRATIONS.length)
      throw new Error(`its version is ${version}; this Lucky Needle supports up to ${MIGRATIONS.length}`);
  } finally {
    foreign.close();
  }
}

function takeOver(own: Database.Database, path: string): void {
  own.pragma('foreign_keys = OFF');
  own.prepare('ATTACH ? AS taken').run(path);
  try {
    const names = tablesOf(own);
    own.transaction(() => {
      for (const name of names) {
        const columns = (own.pragma(`main.table_info("${name}")`) as { name: string }[])
          .map((c) => `"${c.name}"`)
          .join();
        own.exec(`DELETE FROM main."${name}"`);
        own.exec(`INSERT INTO main."${name}" (${columns}) SELECT ${columns} FROM taken."${name}"`);
      }
    })();
  } finally {
    own.exec('DETACH taken');
    own.pragma('foreign_keys = ON');
  }
}
