import { randomUUID } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { fixColumnOf, matchColumns, type DetectedFile } from '@lucky-needle/core/formats';
import type { Gadget, ImportBody, Job, Recording, RowIssue, UploadFor } from '@lucky-needle/core/model';
import { rawColumns } from '@lucky-needle/core/plan';
import { databaseProblem, notFound, ProblemError } from '../http/problem.ts';
import { Arrival } from '../imports/arrival.ts';
import { BEING_IMPORTED } from '../imports/beingImported.ts';
import { HEAD_BYTES, headOf, headOfPackage, isPackage, refused, type Look } from '../imports/lookAtFile.ts';
import { importPace } from '../imports/importPace.ts';
import { lookAside, parseAside } from '../imports/parseAside.ts';
import { ChunkWriter } from '../recordings/chunkWriter.ts';
import type { Bench } from './bench.ts';
import type { JobControl, Jobs } from './jobs.ts';
import { counted } from '@lucky-needle/core/words';

/** Samples that are collected before they are written. */
const COMMIT_SAMPLES = 98_304;

/** A file that is here or on its way, as far as its head tells of it. */
interface Kept {
  readonly id: string;
  readonly name: string;
  readonly arrival: Arrival;
  readonly detected: DetectedFile;
  readonly look: Look;
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

  const clockOf = ({ sampleRateHz }: Gadget) => ({ sampleRateHz, nowS: Date.parse(bench.now()) / 1000 });

  function keptOf(id: string): Kept {
    const kept = uploads.get(id);
    if (!kept) throw notFound('upload', id);
    return kept;
  }

  async function arriving(body: Readable): Promise<[id: string, Arrival]> {
    await mkdir(folder, { recursive: true });
    const id = randomUUID();
    return [id, new Arrival(join(folder, id), body)];
  }

  /** Tells from its head what a file is; a package, whose directory is at its end, is waited for. */
  async function lookedAt(id: string, name: string, arrival: Arrival, gadget: Gadget): Promise<Kept> {
    const { path } = arrival;
    await arrival.atLeast(HEAD_BYTES + 1);
    let head = await headOf(path);
    let detected: DetectedFile | null = null;
    let whole = arrival.isWhole && arrival.bytes === head.length;
    if (isPackage(head)) {
      await arrival.whole;
      ({ detected, head, whole } = await headOfPackage(path).catch((error: Error) => {
        throw refused(error.message);
      }));
    }
    const found = await lookAside(head, whole, detected, clockOf(gadget));
    if ('problem' in found) throw refused(found.problem);
    const kept = { id, name: name.slice(0, 200), arrival, ...found };
    uploads.set(id, kept);
    return kept;
  }

  /** Receives the whole file before it is looked at. */
  async function receive(name: string, body: Readable, gadget: Gadget): Promise<Kept> {
    const [id, arrival] = await arriving(body);
    try {
      await arrival.whole;
      return await lookedAt(id, name, arrival, gadget);
    } catch (error) {
      await rm(arrival.path, { force: true });
      throw databaseProblem(error);
    }
  }

  async function forGadget({ id, name, arrival, look }: Kept, gadget: Gadget): Promise<UploadFor> {
    const upload = { id, name, ...(await arrival.whole), ...look };
    const known = await tables.recordings.ofSource(gadget.id, upload.checksum);
    return {
      upload,
      matched: takenBy(gadget, upload.columns),
      known: known.map(({ id, name }) => ({ id, name })),
    };
  }

  async function forget(id: string, { path }: Arrival): Promise<void> {
    uploads.delete(id);
    await rm(path, { force: true });
  }

  /** Stores an upload; whatever ends it early leaves nothing behind. */
  async function bringIn(
    kept: Kept,
    body: ImportBody,
    gadget: Gadget,
    control: JobControl,
  ): Promise<Recording> {
    const { id, arrival, detected } = kept;
    const columns = body.columns.map(({ name, unit }) => ({ name, unit }));
    const recording = {
      ...(await blank(gadget.id, body.name, columns, gadget.sampleRateHz)),
      note: BEING_IMPORTED,
    };
    const writer = new ChunkWriter(knex, recording.id, columns.length);
    const issues: RowIssue[] = [];
    let [rows, issueCount] = [0, 0];
    const pace = importPace();
    let [firstTimeS, lastTimeS] = [null as number | null, null as number | null];
    const task = {
      path: arrival.path,
      detected,
      picked: body.columns.map((c) => c.at),
      ...clockOf(gadget),
    };
    await tables.recordings.insert(recording);
    try {
      for await (const piece of parseAside(task, arrival, control.signal)) {
        writer.appendAll(piece.rows, piece.length);
        pace.take(piece.rows.times, piece.length);
        issues.push(...piece.issues);
        issueCount += piece.issueCount;
        rows += piece.length;
        if (piece.length > 0) {
          firstTimeS ??= piece.rows.times[0]!;
          lastTimeS = piece.rows.times[piece.length - 1]!;
        }
        if (writer.waiting >= COMMIT_SAMPLES) await writer.commit();
        control.told(piece.bytesRead / arrival.bytes, `${rows.toLocaleString('en')} readings`);
        // Everything else has its turn: live links, pages, a cancel.
        await new Promise((done) => setImmediate(done));
      }
      await writer.commit();
      if (rows === 0)
        throw refused(
          `No readable rows${issues[0] ? `. First problem: ${issues[0].text}` : ': the file contains only a header.'}`,
        );
      const done: Recording = {
        ...recording,
        state: 'imported',
        sourceChecksum: (await arrival.whole).checksum,
        // A file of dates tells when it was made.
        startedAt: firstTimeS! > 1e8 ? new Date(firstTimeS! * 1000).toISOString() : recording.startedAt,
        endedAt: lastTimeS! > 1e8 ? new Date(lastTimeS! * 1000).toISOString() : bench.now(),
        sampleCount: rows,
        firstTimeS,
        lastTimeS,
        sampleRateHz: pace.rateHz() ?? gadget.sampleRateHz,
        issues: [...issues, ...pace.gaps()],
        note: issueCount > 0 ? `${counted(issueCount, 'row')} could not be read.` : '',
      };
      await tables.recordings.update(done);
      await tables.logbook.write(
        gadget.id,
        'runs',
        `Imported "${body.name}": ${rows} readings${issueCount > 0 ? `; ${counted(issueCount, 'row')} could not be read` : ''}.`,
      );
      bench.changed(gadget.id, 'recordings');
      await forget(id, arrival);
      return done;
    } catch (error) {
      await tables.recordings.remove(recording.id);
      throw error instanceof RangeError ? refused(error.message) : databaseProblem(error);
    }
  }

  function start(uploadId: string, body: ImportBody, gadget: Gadget): Job {
    const kept = keptOf(uploadId);
    const wrong = body.columns.find((c) => c.at >= kept.look.columns.length);
    if (wrong)
      throw refused(`The file has ${kept.look.columns.length} columns; column ${wrong.at} does not exist.`);
    const names = body.columns.map((c) => c.name);
    const twice = names.find((n, i) => names.indexOf(n) !== i);
    if (twice) throw refused(`Two columns have the name "${twice}".`, 'Give each column its own name.');
    return jobs.start(
      `Import of ${kept.name}`,
      async (control) => (await bringIn(kept, body, gadget, control)).id,
    );
  }

  return {
    async receive(gadgetId: string, name: string, body: Readable): Promise<UploadFor> {
      const gadget = await gadgetOf(gadgetId);
      return forGadget(await receive(name, body, gadget), gadget);
    },

    discard: async (id: string): Promise<void> => forget(id, keptOf(id).arrival),

    async run(uploadId: string, body: ImportBody): Promise<Job> {
      return start(uploadId, body, await gadgetOf(body.gadgetId));
    },

    /** Stores the columns of a file that this gadget reads, in one request: while the file comes in. */
    async importFile(gadgetId: string, name: string, body: Readable): Promise<Recording> {
      const gadget = await gadgetOf(gadgetId);
      const [id, arrival] = await arriving(body);
      try {
        const { look } = await lookedAt(id, name, arrival, gadget);
        const job = await jobs.ended(start(id, { gadgetId, name, columns: readBy(gadget, look) }, gadget).id);
        if (job.problem) throw refused(job.problem.detail, job.problem.wayOut);
        if (job.result === null) throw refused('The import was cancelled.', 'Send the file again.');
        return (await tables.recordings.find(job.result))!;
      } catch (error) {
        // The sender is heard out: it may not look for an answer before.
        await arrival.whole.catch(() => undefined);
        await forget(id, arrival);
        throw databaseProblem(error);
      }
    },

    /** Files that an ended server had received are of no use any more. */
    clear: () => rm(folder, { recursive: true, force: true }),
  };
}

/** What the columns of a file are taken as: raw columns of the gadget, and parts of a position by their own names. */
const takenBy = (gadget: Gadget, columns: Look['columns']): (string | null)[] =>
  matchColumns(columns, rawColumns(gadget)).map(
    (name, at) => name ?? (fixColumnOf(columns[at]!.name) ? columns[at]!.name : null),
  );

/**
 * Columns of a file that a gadget reads, by their names, with those that tell a position.
 * @throws {ProblemError} when there is none
 */
function readBy(gadget: Gadget, { columns }: Look): ImportBody['columns'] {
  const raw = rawColumns(gadget);
  const found = takenBy(gadget, columns).flatMap((name, at) =>
    name === null ? [] : [{ at, name, unit: columns[at]!.unit ?? ('count' as const) }],
  );
  if (found.some((c) => raw.includes(c.name))) return found;
  throw new ProblemError(
    422,
    'no-known-column',
    'No matching columns',
    `The file contains ${columns.map((c) => c.name).join(', ')}; this gadget needs ${raw.join(', ')}.`,
    'Rename the columns in the header row to match, or import the file into the gadget it belongs to.',
  );
}

export type BlankRecording = (
  gadgetId: string,
  name: string,
  columns: Recording['columns'],
  sampleRateHz: number,
) => Promise<Recording>;
