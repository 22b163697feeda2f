import type { Readable } from 'node:stream';
import Papa from 'papaparse';
import { planCsvImport, readCsvRow, type CsvPlan } from '@lucky-needle/core/formats';
import type { RecordedColumn, RowIssue } from '@lucky-needle/core/model';
import { ProblemError } from '../http/problem.ts';
import { CHUNK_SAMPLES } from './sampleStore.ts';

/** Issues kept in full; beyond that they are counted. */
const MAX_ISSUES = 200;

export interface CsvSink {
  start(columns: RecordedColumn[]): Promise<void>;
  rows(rows: readonly { timeS: number; values: number[] }[]): Promise<void>;
}

export interface CsvOutcome {
  readonly rows: number;
  readonly issues: RowIssue[];
  readonly issueCount: number;
  readonly firstTimeS: number | null;
  readonly lastTimeS: number | null;
  /** From the mean interval; null under two rows. */
  readonly sampleRateHz: number | null;
}

/**
 * Streams a recording's CSV into a sink. Rows that cannot be read become numbered issues beside the good rows.
 * @throws {ProblemError} when the heading row does not say what the columns are, or no row can be read
 */
export async function importCsv(file: Readable, sink: CsvSink): Promise<CsvOutcome> {
  const parser = file.pipe(Papa.parse(Papa.NODE_STREAM_INPUT, { skipEmptyLines: true }));
  let plan: CsvPlan | null = null;
  let row = 0;
  let rows = 0;
  let issueCount = 0;
  let firstTimeS: number | null = null;
  let lastTimeS = Number.NEGATIVE_INFINITY;
  const issues: RowIssue[] = [];
  let batch: { timeS: number; values: number[] }[] = [];
  for await (const fields of parser as AsyncIterable<string[]>) {
    row++;
    if (plan === null) {
      const planned = planCsvImport(fields.map((f, i) => (i === 0 ? f.replace(/^\ufeff/, '') : f)));
      if (typeof planned === 'string') throw refused(planned);
      plan = planned;
      await sink.start(plan.columns.map(({ name, unit }) => ({ name, unit })));
      continue;
    }
    const result = readCsvRow(plan, fields, row, lastTimeS);
    if (!result.ok) {
      issueCount++;
      if (issues.length < MAX_ISSUES) issues.push(result.issue);
      continue;
    }
    firstTimeS ??= result.timeS;
    lastTimeS = result.timeS;
    rows++;
    batch.push(result);
    if (batch.length >= CHUNK_SAMPLES) {
      await sink.rows(batch);
      batch = [];
    }
  }
  if (plan === null) throw refused('The file is empty.');
  if (rows === 0)
    throw refused(
      `No row could be read${issues[0] ? `; the first trouble: ${issues[0].text}` : ': there is only a heading'}`,
    );
  await sink.rows(batch);
  const span = lastTimeS - (firstTimeS ?? 0);
  return {
    rows,
    issues,
    issueCount,
    firstTimeS,
    lastTimeS,
    sampleRateHz: rows > 1 && span > 0 ? (rows - 1) / span : null,
  };
}

function refused(detail: string): ProblemError {
  return new ProblemError(
    422,
    'cannot-import',
    'Cannot be imported',
    detail,
    'Correct the file and choose it again; nothing was stored.',
  );
}
