import { open } from 'node:fs/promises';
import {
  detectFile,
  FILE_FORMATS,
  planDelimited,
  type DetectedFile,
  type TableColumn,
} from '@lucky-needle/core/formats';
import type { RowIssue, Upload } from '@lucky-needle/core/model';
import { ProblemError } from '../http/problem.ts';
import { importPace } from './importPace.ts';
import { openPackage } from './packageFile.ts';
import { tableReader } from './tableReader.ts';

/** Looked at to tell how a file is written. */
export const HEAD_BYTES = 65_536;
const SHOWN_ROWS = 6;

/** What times go by that a file leaves out: readings a second of the gadget that it is for, and the time now. */
export interface LookClock {
  readonly sampleRateHz: number;
  readonly nowS: number;
}

/** What a file is and holds, or why it cannot be told. */
export type LookedAt =
  { readonly detected: DetectedFile; readonly look: Look } | { readonly problem: string };

/** Tells from its head what a file is and holds. @param known where that is told already, as of a package */
export function lookAtHead(
  head: Uint8Array,
  whole: boolean,
  known: DetectedFile | null,
  clock: LookClock,
): LookedAt {
  const detected = known ?? detectFile(head);
  if (typeof detected === 'string') return { problem: detected };
  try {
    return { detected, look: lookAt(detected, head, whole, clock) };
  } catch (error) {
    return { problem: (error as Error).message };
  }
}

export const refused = (
  detail: string,
  wayOut = 'Correct the file and choose it again. Nothing was stored.',
) => new ProblemError(422, 'cannot-import', 'Cannot import this file', detail, wayOut);

function timeInWords({ format, plan }: DetectedFile): string {
  if (plan === null) return format === 'wav' ? 'from the sampling rate' : 'from each record';
  const scale =
    plan.timeScale === 'date' ? 'dates' : (TIME_SCALES[plan.timeScale] ?? `in units of ${plan.timeScale} s`);
  return `column ${plan.timeColumn + 1}, ${scale}`;
}

const TIME_SCALES: Readonly<Record<number, string>> = {
  1: 'seconds',
  0.001: 'milliseconds',
  0.000001: 'microseconds',
  0.000000001: 'nanoseconds',
  60: 'minutes',
  3600: 'hours',
  86400: 'days',
};

/** Whether a file is packed: what is in it stands at its end. */
export const isPackage = (head: Uint8Array) => head[0] === 0x50 && head[1] === 0x4b;

/** The first bytes of a file, as far as it is here. */
export async function headOf(path: string): Promise<Uint8Array> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/**
 * How the table of a data package is written, with its first bytes and whether that is all of it.
 * @throws {RangeError} when it is no package with a table
 */
export async function headOfPackage(
  path: string,
): Promise<{ detected: DetectedFile; head: Uint8Array; whole: boolean }> {
  const table = await openPackage(path);
  try {
    const head = await firstOf(table.bytes());
    const plan = planDelimited(new TextDecoder().decode(head.subarray(0, 20_000)));
    if (typeof plan === 'string') throw new RangeError(`${table.path}: ${plan}`);
    return { detected: { format: 'package', plan }, head, whole: head.length >= table.size };
  } finally {
    table.close();
  }
}

async function firstOf(bytes: AsyncGenerator<Buffer>): Promise<Uint8Array> {
  const pieces: Buffer[] = [];
  let length = 0;
  for await (const piece of bytes) {
    pieces.push(piece);
    length += piece.length;
    if (length >= HEAD_BYTES) break;
  }
  return Buffer.concat(pieces).subarray(0, HEAD_BYTES);
}

/** What is told of a file before it is stored. */
export type Look = Pick<Upload, 'format' | 'time' | 'columns' | 'rows' | 'sampleRateHz' | 'issues'>;

/**
 * Columns, first rows and first troubles of a file, from its head.
 * @param whole whether that is all of it
 * @throws {Error} saying why it cannot be read
 */
function lookAt(detected: DetectedFile, head: Uint8Array, whole: boolean, clock: LookClock): Look {
  let columns: readonly TableColumn[] = [];
  const times: number[] = [];
  const rows: Upload['rows'] = [];
  const issues: RowIssue[] = [];
  const remarks: string[] = [];
  const reader = tableReader(
    detected,
    {
      columns: (found) => (columns = [...found]),
      row(timeS, values) {
        times.push(timeS);
        if (rows.length < SHOWN_ROWS)
          rows.push({ timeS, values: Array.from(values, (v) => (Number.isFinite(v) ? v : null)) });
      },
      issue: (issue) => void (issues.length < SHOWN_ROWS && issues.push(issue)),
      remark: (text) => remarks.push(text),
    },
    clock,
  );
  // A head that is cut short ends in the middle of a row, which is no trouble of the file's.
  const text = detected.format !== 'wav';
  const cut = whole || !text ? head.length : head.lastIndexOf(10) + 1 || head.length;
  reader.push(head.subarray(0, cut));
  if (whole) reader.finish();
  if (columns.length === 0) throw new RangeError(issues[0]?.text ?? 'No columns found in the file.');
  const pace = importPace();
  pace.take(Float64Array.from(times), times.length);
  const filled = rows.map((r) => ({ ...r, values: columns.map((_, k) => r.values[k] ?? null) }));
  return {
    format: FILE_FORMATS[detected.format],
    time: [timeInWords(detected), ...remarks].join(', '),
    columns: columns.map(({ name, unit }) => ({ name, unit })),
    rows: filled,
    sampleRateHz: times.length > 2 ? pace.rateHz() : null,
    issues,
  };
}
