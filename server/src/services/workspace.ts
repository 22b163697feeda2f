import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { copyFile, mkdir, rename, rm, stat, statfs } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Readable, Writable } from 'node:stream';
import { text } from 'node:stream/consumers';
import { pipeline } from 'node:stream/promises';
import type { Knex } from 'knex';
import type { RestoreProgress } from '@lucky-needle/core/model';
import yazl from 'yazl';
import { MIGRATIONS } from '../db/migrations.ts';
import type { OpenDatabase } from '../db/open.ts';
import { checkRows } from './checkRows.ts';
import { entriesOf, openEntry, openZip } from '../files/zip.ts';
import { databaseProblem, ProblemError } from '../http/problem.ts';
import type { Bench } from './bench.ts';

const FORM = 'lucky-needle-workspace';
const MOST_MANIFEST = 65_536;
/** Room that a restore leaves on the disk. */
const LEFT_FREE = 100_000_000;

interface Manifest {
  readonly form: string;
  /** Migrations that its database has been through. */
  readonly version: number;
  readonly createdAt: string;
  readonly bytes: number;
  /** SHA-256 of workspace.sqlite. */
  readonly sha256: string;
}

const refused = (detail: string) =>
  new ProblemError(
    422,
    'cannot-restore',
    'Cannot restore this file',
    detail,
    'Choose a backup made by Lucky Needle. Nothing was changed.',
  );

const noRoom = (detail: string) =>
  new ProblemError(
    507,
    'disk-full',
    'Disk full',
    detail,
    'Free some space and try again. Nothing was changed.',
  );

/** The whole workspace as one file, and back. */
export function workspaceService(
  bench: Bench,
  database: OpenDatabase,
  /** Closes recordings that ran when the backup was made. */
  recover: () => Promise<unknown>,
) {
  const folder = join(bench.dataDir, 'backups');
  let progress: RestoreProgress = { doing: null, done: 0 };
  /** What was here before the last restore. */
  const setAsidePath = join(bench.dataDir, 'lucky-needle.sqlite.before-restore');

  function refuseWhileRecording(): void {
    const recording = bench.links.all().find((r) => r.recorder !== null)?.recorder;
    if (recording)
      throw new ProblemError(
        409,
        'recording',
        'Recording in progress',
        `"${recording.recording.name}" is being recorded.`,
        'Stop recording first.',
      );
  }

  /** Takes a checked database over, after a copy of what is here was set aside. */
  async function putInPlace(opened: string): Promise<void> {
    const aside = join(folder, `${randomUUID()}.sqlite`);
    await database.copyTo(aside);
    await bench.links.pause(async () => {
      database.takeOver(opened);
      await recover();
    });
    await rename(aside, setAsidePath);
    bench.changedForAll('workspace');
  }

  return {
    /** What a server that was killed has left of backups and restores. */
    clear: () => rm(folder, { recursive: true, force: true }),

    /** Copies the database while everything goes on, and sends it in a zip with its checksum. */
    async backup(out: Writable): Promise<void> {
      await mkdir(folder, { recursive: true });
      const copy = join(folder, `${randomUUID()}.sqlite`);
      try {
        await database.copyTo(copy);
        const manifest: Manifest = {
          form: FORM,
          version: MIGRATIONS.length,
          createdAt: bench.now(),
          bytes: (await stat(copy)).size,
          sha256: await checksumOf(copy),
        };
        const zip = new yazl.ZipFile();
        zip.addBuffer(Buffer.from(JSON.stringify(manifest, null, 2)), 'manifest.json');
        zip.addFile(copy, 'workspace.sqlite');
        zip.end();
        await pipeline(zip.outputStream, out);
      } finally {
        await rm(copy, { force: true });
      }
    },

    /**
     * Puts a backup in the place of everything that is here, after a copy of that was set aside.
     * @returns where the copy is
     */
    async restore(body: Readable): Promise<{ createdAt: string; setAside: string }> {
      refuseWhileRecording();
      progress = { doing: 'receiving', done: 0 };
      await mkdir(folder, { recursive: true });
      const sent = join(folder, `${randomUUID()}.zip`);
      const opened = join(folder, `${randomUUID()}.sqlite`);
      try {
        body.on('data', (piece: Buffer) => (progress.done += piece.length));
        await pipeline(body, createWriteStream(sent));
        const manifest = await unpack(sent, opened);
        progress = { doing: 'checking', done: 0 };
        const check = (knex: Knex) => checkRows(knex, (rows) => (progress.done = rows));
        await database.prepareForeign(opened, check).catch((error: Error) => {
          const known = databaseProblem(error);
          throw known instanceof ProblemError
            ? known
            : refused(`The database in the backup cannot be used: ${error.message}`);
        });
        progress = { doing: 'restoring', done: 0 };
        await putInPlace(opened);
        return { createdAt: manifest.createdAt, setAside: setAsidePath };
      } finally {
        progress = { doing: null, done: 0 };
        await rm(sent, { force: true });
        await rm(opened, { force: true });
        for (const tail of ['-wal', '-shm']) await rm(opened + tail, { force: true });
      }
    },

    /** How far a restore has come. */
    progress: (): RestoreProgress => progress,

    /** Puts back what was here before the last restore; what is here now is set aside in its turn. */
    async bringBack(): Promise<void> {
      refuseWhileRecording();
      await mkdir(folder, { recursive: true });
      const opened = join(folder, `${randomUUID()}.sqlite`);
      try {
        await copyFile(setAsidePath, opened).catch(() => {
          throw new ProblemError(
            404,
            'nothing-set-aside',
            'No previous workspace',
            'There is no restore to undo.',
            'Restore a backup file instead.',
          );
        });
        await database.prepareForeign(opened, async () => undefined);
        await putInPlace(opened);
      } finally {
        for (const tail of ['', '-wal', '-shm']) await rm(opened + tail, { force: true });
      }
    },
  };
}

/** Writes the database of a backup out, and checks it against what the manifest says of it. */
async function unpack(zipPath: string, to: string): Promise<Manifest> {
  const zip = await openZip(zipPath).catch(() => {
    throw refused('This is not a zip file.');
  });
  let manifest: Manifest | null = null;
  let sha256: string | null = null;
  try {
    for await (const entry of entriesOf(zip, 10)) {
      const stream = await openEntry(zip, entry);
      if (entry.fileName === 'manifest.json') {
        if (entry.uncompressedSize > MOST_MANIFEST) throw refused('The manifest in the backup is too large.');
        manifest = readManifest(await text(stream));
      } else if (entry.fileName === 'workspace.sqlite') {
        const { bavail, bsize } = await statfs(dirname(to));
        // Once as it was sent, once more in the place of what is here, and once as what is set aside.
        if (entry.uncompressedSize > (bavail * bsize - LEFT_FREE) / 2)
          throw noRoom(
            `The database in the backup has ${(entry.uncompressedSize / 1e6).toFixed(1)} MB. Restoring it needs twice that, which is not free on the disk.`,
          );
        const hash = createHash('sha256');
        stream.on('data', (piece: Buffer) => hash.update(piece));
        await pipeline(stream, createWriteStream(to));
        sha256 = hash.digest('hex');
      } else throw refused(`The file contains "${entry.fileName}", which does not belong in a backup.`);
    }
  } catch (error) {
    throw error instanceof RangeError ? refused(error.message) : error;
  } finally {
    zip.close();
  }
  if (!manifest || !sha256) throw refused('The file has no manifest or no database, so it is not a backup.');
  if (manifest.sha256 !== sha256)
    throw refused('The database does not match its checksum: the backup is damaged.');
  if (manifest.version > MIGRATIONS.length)
    throw refused(
      `This backup was made by a newer Lucky Needle (database version ${manifest.version}; this one supports up to ${MIGRATIONS.length}).`,
    );
  return manifest;
}

function readManifest(json: string): Manifest {
  try {
    const manifest = JSON.parse(json) as Manifest;
    if (manifest.form === FORM && Number.isInteger(manifest.version)) return manifest;
  } catch {
    // Told below.
  }
  throw refused('The manifest is not that of a Lucky Needle backup.');
}

async function checksumOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const piece of createReadStream(path)) hash.update(piece as Buffer);
  return hash.digest('hex');
}
