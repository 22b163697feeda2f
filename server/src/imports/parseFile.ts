import { open } from 'node:fs/promises';
import { losesNothing, type DetectedFile } from '@lucky-needle/core/formats';
import type { RowIssue } from '@lucky-needle/core/model';
import { larger } from '../recordings/larger.ts';
import { openPackage } from './packageFile.ts';
import { tableReader } from './tableReader.ts';

/** Read and parsed in one go, between looks at everything else. */
const PIECE_BYTES = 1_000_000;
/** Rows that buffers have room for at first: about as many as a piece holds; fewer of a table of thousands of columns. */
const FIRST_ROWS = 32_768;
const FIRST_VALUES = 2_000_000;
/** Issues kept in full; beyond that they are counted. */
const MAX_ISSUES = 200;

export interface ParseTask {
  readonly path: string;
  readonly detected: DetectedFile;
  /** Columns of the file that are wanted, by their place in it. */
  readonly picked: readonly number[];
  readonly sampleRateHz: number;
  readonly nowS: number;
}

/** Columns of rows, with room for more. */
export interface RowBuffers {
  readonly times: Float64Array;
  readonly columns: readonly Float64Array[];
}

/** What is handed over of them and not copied. */
export const buffersOf = ({ times, columns }: RowBuffers): ArrayBuffer[] =>
  [times, ...columns].map((a) => a.buffer as ArrayBuffer);

/** Rows of one piece of a file, in order of time. */
export interface ParsedPiece {
  /** Time and columns; only the first `length` of each count. */
  readonly rows: RowBuffers;
  readonly length: number;
  /** Of the file, so far; about, where it is packed. */
  readonly bytesRead: number;
  readonly issues: readonly RowIssue[];
  /** Of rows that are missing for them, with those that are not told in full. */
  readonly issueCount: number;
}

/**
 * Parses a file piece by piece; readers give its rows in order of time.
 * @param spare gives buffers that are done with, to be filled again; a file of gigabytes would else leave as much garbage
 * @param arrived waits until so many bytes of the file are there, or all of it; without it the file is whole
 */
export async function* parseFile(
  task: ParseTask,
  spare: () => RowBuffers | undefined = () => undefined,
  arrived: (bytes: number) => Promise<void> = async () => undefined,
): AsyncGenerator<ParsedPiece> {
  const { detected, picked } = task;
  const firstRows = Math.max(16, Math.min(FIRST_ROWS, Math.floor(FIRST_VALUES / (picked.length + 1))));
  const empty = (): RowBuffers => ({
    times: new Float64Array(firstRows),
    columns: picked.map(() => new Float64Array(firstRows)),
  });
  let { times, columns } = spare() ?? empty();
  let length = 0;
  let [told, bytesRead] = [0, 0];
  let issues: RowIssue[] = [];
  let issueCount = 0;
  const tell = (issue: RowIssue) => {
    if (!losesNothing(issue.code)) issueCount++;
    if (told++ < MAX_ISSUES) issues.push(issue);
  };
  const reader = tableReader(
    detected,
    {
      columns: () => undefined,
      row(timeS, values) {
        if (length === times.length) {
          times = larger(times);
          columns = columns.map(larger);
        }
        times[length] = timeS;
        for (let k = 0; k < picked.length; k++) columns[k]![length] = values[picked[k]!] ?? Number.NaN;
        length++;
      },
      issue: tell,
      remark: (text) => tell({ code: 'remark', row: 0, text: `Times: ${text}.` }),
    },
    task,
  );
  const piece = (): ParsedPiece => {
    const taken = { rows: { times, columns }, length, bytesRead, issues, issueCount };
    length = 0;
    issues = [];
    issueCount = 0;
    return taken;
  };
  let unsaid = 0;
  for await (const { bytes, at } of bytesOf(task, arrived)) {
    reader.push(bytes);
    bytesRead = at;
    unsaid += bytes.length;
    if (unsaid < PIECE_BYTES) continue;
    unsaid = 0;
    yield piece();
    ({ times, columns } = spare() ?? empty());
  }
  reader.finish();
  yield piece();
}

/** Bytes of a table, piece by piece, which are overwritten by the next; and how far in the file they end. */
async function* bytesOf(
  { path, detected }: ParseTask,
  arrived: (bytes: number) => Promise<void>,
): AsyncGenerator<{ bytes: Uint8Array; at: number }> {
  if (detected.format === 'package') return yield* bytesInPackage(path);
  // The file may not have begun to come in.
  await arrived(1);
  const file = await open(path);
  try {
    const buffer = new Uint8Array(PIECE_BYTES);
    for (let at = 0; ;) {
      await arrived(at + PIECE_BYTES);
      const { bytesRead } = await file.read(buffer, 0, PIECE_BYTES);
      if (bytesRead === 0) return;
      at += bytesRead;
      yield { bytes: buffer.subarray(0, bytesRead), at };
    }
  } finally {
    await file.close();
  }
}

async function* bytesInPackage(path: string): AsyncGenerator<{ bytes: Uint8Array; at: number }> {
  const table = await openPackage(path);
  try {
    let opened = 0;
    for await (const bytes of table.bytes()) {
      opened += bytes.length;
      yield { bytes, at: (opened / table.size) * table.packed };
    }
  } finally {
    table.close();
  }
}
