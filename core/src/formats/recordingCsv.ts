import type { RowIssue } from '../model/recording.ts';
import { csvField } from './csvField.ts';
import { parseDecimal } from './parseDecimal.ts';
import { UNIT_IDS, type UnitId } from '../units/index.ts';

export interface CsvColumn {
  readonly name: string;
  readonly unit: UnitId;
  /** Raw columns are stored on import; converted ones can be made again and are passed over. */
  readonly raw: boolean;
}

/** "p1 raw [count]" or "Probe 1 [degC]": name, kind and unit in one heading, so a spreadsheet keeps them together. */
export function csvHeading(column: CsvColumn): string {
  return csvField(`${column.name}${column.raw ? ' raw' : ''} [${column.unit}]`);
}

export function csvHeader(columns: readonly CsvColumn[]): string {
  return ['time [s]', ...columns.map(csvHeading)].join(',');
}

/** One row; numbers in the shortest form that reads back as the same double, a bad sample as an empty field. */
export function csvRow(timeS: number, values: readonly number[]): string {
  return [timeS, ...values].map((v) => (Number.isFinite(v) ? String(v) : '')).join(',');
}

export interface CsvPlan {
  /** Column of the time in the file. */
  readonly timeAt: number;
  readonly columns: readonly { readonly at: number; readonly name: string; readonly unit: UnitId }[];
  readonly passedOver: readonly string[];
}

/**
 * Reads the heading row of a recording: which columns hold raw data.
 * @returns the plan, or a sentence that says what is missing
 */
export function planCsvImport(headings: readonly string[]): CsvPlan | string {
  const parsed = headings.map((heading) => {
    const match = /^'?(.*?)( raw)? \[([^\]]+)\]$/.exec(heading.trim());
    return match ? { name: match[1]!, raw: match[2] !== undefined, unit: match[3]! } : null;
  });
  const timeAt = parsed.findIndex((c) => c?.name === 'time' && c.unit === 's');
  if (timeAt < 0)
    return 'The first row has no column "time [s]". Add a heading row with the time in seconds.';
  const raw = parsed.flatMap((c, at) => (c?.raw ? [{ at, name: c.name, unit: c.unit }] : []));
  if (raw.length === 0) {
    return 'No column is marked as raw, such as "p1 raw [count]". Name the raw columns so in the first row.';
  }
  const unknown = raw.find((c) => !UNIT_IDS.includes(c.unit as UnitId));
  if (unknown)
    return `Column "${unknown.name}" has the unit "${unknown.unit}", which is not known. Use one of ${UNIT_IDS.join(', ')}.`;
  const taken = new Set([timeAt, ...raw.map((c) => c.at)]);
  return {
    timeAt,
    columns: raw as CsvPlan['columns'],
    passedOver: headings.filter((_, at) => !taken.has(at)),
  };
}

export type CsvRowResult =
  | { readonly ok: true; readonly timeS: number; readonly values: number[] }
  | { readonly ok: false; readonly issue: RowIssue };

/** Reads one data row by the plan. An empty field is a missing sample (NaN); anything else that is no number is an issue. */
export function readCsvRow(
  plan: CsvPlan,
  fields: readonly string[],
  row: number,
  previousTimeS: number,
): CsvRowResult {
  const fail = (code: string, text: string): CsvRowResult => ({ ok: false, issue: { code, row, text } });
  const timeS = parseDecimal(fields[plan.timeAt]);
  if (!Number.isFinite(timeS))
    return fail('no-time', `Row ${row}: the time "${fields[plan.timeAt] ?? ''}" is no number.`);
  if (timeS < previousTimeS)
    return fail('time-backwards', `Row ${row}: time ${timeS} s comes after ${previousTimeS} s.`);
  const values: number[] = [];
  for (const column of plan.columns) {
    const text = fields[column.at];
    if (text === undefined) return fail('too-few-fields', `Row ${row}: no field for ${column.name}.`);
    const value = text.trim() === '' ? Number.NaN : parseDecimal(text);
    if (Number.isNaN(value) && text.trim() !== '')
      return fail('not-a-number', `Row ${row}: ${column.name} is "${text.slice(0, 40)}".`);
    values.push(value);
  }
  return { ok: true, timeS, values };
}
