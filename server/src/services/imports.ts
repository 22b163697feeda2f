import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { detectFile, matchColumns, type DetectedFile } from '@lucky-needle/core/formats';
import type {
  Gadget,
  ImportBody,
  Job,
  Recording,
  RowIssue,
  Upload,
  UploadFor,
} from '@lucky-needle/core/model';
import { rawColumns } from '@lucky-needle/core/plan';
import { databaseProblem, notFound, ProblemError } from '../http/problem.ts';
import { headOf, lookAt, refused, wholeOf } from '../imports/lookAtFile.ts';
import { parseAside } from '../imports/parseAside.ts';
import { WHOLE_AT_MOST } from '../imports/tableReader.ts';
import { ChunkWriter } from '../recordings/chunkWriter.ts';
import type { Bench } from './bench.ts';
import type { JobControl, Jobs } from './jobs.ts';

/** Samples that are collected before they are written. */
const COMMIT_SAMPLES = 98_304;
const MAX_BYTES = 20_000_000_000;

interface Kept {
  readonly upload: Upload;
  readonly path: string;
  readonly detected: DetectedFile;
}

/** Files that are brought in: received, looked at, and then stored as a recording by a job that can be cancelled. */
export function importService(bench: Bench, jobs: Jobs, blank: BlankRecording) {
  const { tables, knex } = bench;
  const folder = join(bench.dataDir, 'uploads');
  const uploads = new Map<string, Kept>();

  async function gadgetOf(id: string): Promise<Gadget> {
    const gadget = await tables.gadgets.find(id);
    if (!gadget) throw notFound('gadget', id);
    return gadget;
  }

  function keptOf(id: string): Kept {
    const kept = uploads.get(id);
    if (!kept) throw notFound('upload', id);
    return kept;
  }

  async function receive(name: string, body: Readable): Promise<Kept> {
    await mkdir(folder, { recursive: true });
    const id = randomUUID();
    const path = join(folder, id);
    const hash = createHash('sha256');
    let bytes = 0;
    const counted = new Transform({
      transform(piece: Buffer, _encoding, done) {
        bytes += piece.length;
        hash.update(piece);
        if (bytes > MAX_BYTES)
          done(refused(`The file has more than ${MAX_BYTES / 1e9} GB.`, 'Split it first.'));
        else done(null, piece);
      },
    });
    try {
      await pipeline(body, counted, createWriteStream(path));
      const head = await headOf(path);
      const detected = detectFile(head);
      if (typeof detected === 'string') throw refused(detected);
      if (detected.format === 'package' && bytes > WHOLE_AT_MOST)
        throw refused(
          'A data package is opened whole, and this one is too large.',
          'Unpack it and choose its table.',
        );
      const look = lookAt(detected, detected.format === 'package' ? await wholeOf(path) : head, bytes);
      const upload: Upload = {
        id,
        name: name.slice(0, 200),
        bytes,
        checksum: hash.digest('hex'),
        ...look,
      };
      const kept = { upload, path, detected };
      uploads.set(id, kept);
      return kept;
    } catch (error) {
      await rm(path, { force: true });
      throw databaseProblem(error);
    }
  }

  async function forGadget(kept: Kept, gadget: Gadget): Promise<UploadFor> {
    const { upload } = kept;
    const known = await tables.recordings.ofSource(gadget.id, upload.checksum);
    return {
      upload,
      matched: matchColumns(upload.columns, rawColumns(gadget)),
      known: known.map(({ id, name }) => ({ id, name })),
    };
  }

  async function discard(id: string): Promise<void> {
    const kept = keptOf(id);
    uploads.delete(id);
    await rm(kept.path, { force: true });
  }

  /** Stores an upload; whatever ends it early leaves nothing behind. */
  async function bringIn(
    kept: Kept,
    body: ImportBody,
    gadget: Gadget,
    control: JobControl,
  ): Promise<Recording> {
    const { upload, path, detected } = kept;
    const columns = body.columns.map(({ name, unit }) => ({ name, unit }));
    const recording = {
      ...(await blank(gadget.id, body.name, columns, gadget.sampleRateHz)),
      sourceChecksum: upload.checksum,
    };
    const writer = new ChunkWriter(knex, recording.id, columns.length);
    const issues: RowIssue[] = [];
    let [rows, issueCount] = [0, 0];
    let [firstTimeS, lastTimeS] = [null as number | null, null as number | null];
    const parsed = parseAside({
      path,
      detected,
      picked: body.columns.map((c) => c.at),
      sampleRateHz: gadget.sampleRateHz,
      nowS: Date.parse(bench.now()) / 1000,
    });
    await tables.recordings.insert(recording);
    try {
      for await (const piece of parsed) {
        writer.appendAll(piece.rows, piece.length);
        issues.push(...piece.issues);
        issueCount += piece.issueCount;
        rows += piece.length;
        if (piece.length > 0) {
          firstTimeS ??= piece.rows.times[0]!;
          lastTimeS = piece.rows.times[piece.length - 1]!;
        }
        if (writer.waiting >= COMMIT_SAMPLES) await writer.commit();
        control.told(piece.bytesRead / upload.bytes, `${rows.toLocaleString('en')} readings`);
        // Everything else has its turn: live links, pages, a cancel.
        await new Promise((done) => setImmediate(done));
      }
      await writer.commit();
      if (rows === 0)
        throw refused(
          `No row could be read${issues[0] ? `; the first trouble: ${issues[0].text}` : ': there is only a heading'}`,
        );
      const spanS = lastTimeS! - firstTimeS!;
      const done: Recording = {
        ...recording,
        state: 'imported',
        // A file of dates tells when it was made.
        startedAt: firstTimeS! > 1e8 ? new Date(firstTimeS! * 1000).toISOString() : recording.startedAt,
        endedAt: lastTimeS! > 1e8 ? new Date(lastTimeS! * 1000).toISOString() : bench.now(),
        sampleCount: rows,
        firstTimeS,
        lastTimeS,
        sampleRateHz: rows > 1 && spanS > 0 ? (rows - 1) / spanS : gadget.sampleRateHz,
        issues,
        note: issueCount > 0 ? `${issueCount} rows could not be read.` : '',
      };
      await tables.recordings.update(done);
      await tables.logbook.write(
        gadget.id,
        'runs',
        `Imported "${body.name}": ${rows} readings${issueCount > 0 ? `, ${issueCount} rows could not be read` : ''}.`,
      );
      bench.changed(gadget.id, 'recordings');
      await discard(upload.id);
      return done;
    } catch (error) {
      await tables.recordings.remove(recording.id);
      throw databaseProblem(error);
    }
  }

  function start(uploadId: string, body: ImportBody, gadget: Gadget): Job {
    const kept = keptOf(uploadId);
    const wrong = body.columns.find((c) => c.at >= kept.upload.columns.length);
    if (wrong)
      throw refused(`The file has ${kept.upload.columns.length} columns; there is none at ${wrong.at}.`);
    const names = body.columns.map((c) => c.name);
    const twice = names.find((n, i) => names.indexOf(n) !== i);
    if (twice) throw refused(`Two columns would be called "${twice}".`, 'Give each a name of its own.');
    return jobs.start(
      `Import of ${kept.upload.name}`,
      async (control) => (await bringIn(kept, body, gadget, control)).id,
    );
  }

  return {
    async receive(gadgetId: string, name: string, body: Readable): Promise<UploadFor> {
      const gadget = await gadgetOf(gadgetId);
      return forGadget(await receive(name, body), gadget);
    },

    discard,

    async run(uploadId: string, body: ImportBody): Promise<Job> {
      return start(uploadId, body, await gadgetOf(body.gadgetId));
    },

    /** Receives a file and stores the columns that this gadget reads, in one request. */
    async importFile(gadgetId: string, name: string, body: Readable): Promise<Recording> {
      const gadget = await gadgetOf(gadgetId);
      const kept = await receive(name, body);
      const { matched } = await forGadget(kept, gadget);
      const columns = matched.flatMap((raw, at) =>
        raw === null ? [] : [{ at, name: raw, unit: kept.upload.columns[at]!.unit ?? ('count' as const) }],
      );
      if (columns.length === 0) {
        await discard(kept.upload.id);
        throw new ProblemError(
          422,
          'no-known-column',
          'Nothing to import',
          `The file has ${kept.upload.columns.map((c) => c.name).join(', ')}; this gadget reads ${rawColumns(gadget).join(', ')}.`,
          'Rename the raw columns in the first row, or open the gadget they belong to.',
        );
      }
      const job = await jobs.ended(start(kept.upload.id, { gadgetId, name, columns }, gadget).id);
      if (job.problem) {
        await discard(kept.upload.id).catch(() => undefined);
        throw refused(job.problem.detail, job.problem.wayOut);
      }
      return (await tables.recordings.find(job.result!))!;
    },

    /** Files that an ended server had received are of no use any more. */
    clear: () => rm(folder, { recursive: true, force: true }),
  };
}

export type BlankRecording = (
  gadgetId: string,
  name: string,
  columns: Recording['columns'],
  sampleRateHz: number,
) => Promise<Recording>;
