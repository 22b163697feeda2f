import Papa from 'papaparse';
import { unitNamed, type UnitId } from '../units/index.ts';
import { csvField } from './csvField.ts';
import { isoSeconds } from '../units/dates.ts';
import { parseDecimal } from './parseDecimal.ts';
import { scanNumberBytes } from './scanNumberBytes.ts';
import { stampScale } from './stampScale.ts';
import { fileTimes } from './fileTimes.ts';
import { type TableColumn, type TableReader, type TableSink } from './tableSink.ts';

export interface DelimitedPlan {
  readonly delimiter: string;
  readonly decimal: '.' | ',';
  /** Rows before the data: none, a heading, or a heading with a row of units below. */
  readonly headingRows: 0 | 1 | 2;
  readonly timeColumn: number;
  /** Seconds per unit of the time column; 'date' for dates and times of day. */
  readonly timeScale: number | 'date';
  readonly columns: readonly (TableColumn & { readonly at: number })[];
}

const DELIMITERS = [',', ';', '\t', '|'] as const;

/**
 * Guesses how a delimited file is written from its first lines: delimiter, decimal comma, heading, row of units, time.
 * @returns the plan, or a sentence that says what could not be made out
 */
export function planDelimited(sample: string): DelimitedPlan | string {
  const text = sample.replace(/^\uFEFF/, '');
  const lines = text.split(/\r\n|\n|\r/).filter((line) => line.trim() !== '');
  if (lines.length === 0) return 'The file is empty.';
  const delimiter = bestDelimiter(lines.slice(0, 20));
  if (!delimiter)
    return 'No column separator found. Separate the values with commas, semicolons, tabs or vertical bars.';
  const { data: rows } = Papa.parse<string[]>(lines.slice(0, 20).join('\n'), { delimiter });
  const decimal = delimiter !== ',' && rows.flat().some((f) => /^[+-]?\d+,\d+$/.test(f.trim())) ? ',' : '.';
  const isData = (row: readonly string[]) =>
    row.some((f) => Number.isFinite(parseDecimal(f, decimal)) || isDate(f));
  const firstData = rows.findIndex(isData);
  if (firstData < 0) return 'No row of numbers found in the first 20 lines.';
  const headingRows = Math.min(2, firstData) as 0 | 1 | 2;
  const heading = firstData > 0 ? rows[firstData - headingRows]! : null;
  const units = headingRows === 2 ? rows[firstData - 1]! : null;
  const first = rows[firstData]!;
  const columns = first.map((_, at) => columnOf(heading?.[at] ?? '', units?.[at], at));
  const timeColumn = findTime(columns, first);
  const scale = timeScaleOf(columns[timeColumn]!, first[timeColumn]!, heading?.[timeColumn] ?? '', decimal);
  return {
    delimiter,
    decimal,
    headingRows,
    timeColumn,
    timeScale: scale,
    columns: columns.map((c, at) => ({ ...c, at })).filter((c) => c.at !== timeColumn),
  };
}

function bestDelimiter(lines: readonly string[]): string | null {
  const scored = DELIMITERS.map((delimiter) => {
    const counts = Papa.parse<string[]>(lines.join('\n'), { delimiter }).data.map((row) => row.length);
    const typical = counts.toSorted((a, b) => a - b)[counts.length >> 1]!;
    return { delimiter, typical, same: counts.filter((c) => c === typical).length };
  }).filter((s) => s.typical > 1);
  // A decimal comma also cuts rows: the separator that makes more rows alike, then the one that comes first here, wins.
  const strong = scored.filter((s) => s.delimiter !== ',' && s.same >= 0.8 * lines.length);
  return (strong[0] ?? scored.toSorted((a, b) => b.same - a.same)[0])?.delimiter ?? null;
}

/** "Probe 1 [degC]", "Probe 1 (°C)", or a name with its unit in the row below. */
function columnOf(heading: string, below: string | undefined, at: number): TableColumn {
  const plain = heading.trim().replace(/^'/, '');
  const opens = /[\])]$/.test(plain) ? Math.max(plain.lastIndexOf('['), plain.lastIndexOf('(')) : -1;
  const name = (opens >= 0 ? plain.slice(0, opens).trim() : plain) || `column ${at + 1}`;
  const unit = opens >= 0 ? plain.slice(opens + 1, -1) : below?.trim().replace(/^[[(]|[\])]$/g, '');
  return { name, unit: unit ? (unitNamed(unit) ?? null) : null };
}

const TIME_NAME = /^(time|t|timestamp|date|datetime|elapsed|ms|millis|us|micros|seconds?|sec|s)$/i;

function findTime(columns: readonly TableColumn[], first: readonly string[]): number {
  const named = columns.findIndex((c) => TIME_NAME.test(c.name) || /\btime\b/i.test(c.name));
  if (named >= 0) return named;
  const dated = first.findIndex(isDate);
  return dated >= 0 ? dated : 0;
}

/** By its unit, by its name, else by its size. */
function timeScaleOf(
  column: TableColumn,
  value: string,
  heading: string,
  decimal: '.' | ',',
): number | 'date' {
  if (isDate(value)) return 'date';
  const byUnit: Partial<Record<UnitId, number>> = { s: 1, ms: 1e-3, us: 1e-6, min: 60, h: 3600, d: 86400 };
  if (column.unit && byUnit[column.unit] !== undefined) return byUnit[column.unit]!;
  if (/^(ms|millis)$/i.test(column.name) || /\bms\b/i.test(heading)) return 1e-3;
  if (/^(us|micros)$/i.test(column.name)) return 1e-6;
  return stampScale(parseDecimal(value, decimal));
}

const isDate = (text: string) =>
  /^\d{4}-\d{2}-\d{2}([T ]\d{2}:\d{2}(:\d{2}(\.\d+)?)? ?(Z|[+-]\d{2}:?\d{2})?)?$/.test(text.trim());

const LINE_END = 10;
const QUOTE = 34;

/**
 * Reads a delimited file of UTF-8 by its plan, piece by piece. Rows of plain numbers are read straight from the bytes; others
 * are tokenised. From the first quote on rows may hold line ends, and all is left to the tokeniser.
 */
export function delimitedReader(plan: DelimitedPlan, sink: TableSink): TableReader<Uint8Array> {
  const decoder = new TextDecoder();
  let rest: Uint8Array = new Uint8Array(0);
  let row = 0;
  let heading = plan.headingRows as number;
  let started = false;
  const times = fileTimes(sink);
  const fail = (code: string, text: string) => sink.issue({ code, row, text: `Row ${row}: ${text}` });
  sink.columns(plan.columns.map(({ name, unit }) => ({ name, unit })));

  function take(fields: readonly string[]): void {
    row++;
    if (fields.length === 1 && fields[0]!.trim() === '') return;
    if (heading > 0) {
      heading--;
      return;
    }
    if (fields.length < plan.columns.length + 1)
      return fail('too-few-fields', `${fields.length} fields instead of ${plan.columns.length + 1}.`);
    if (
      fields.length > plan.columns.length + 1 &&
      fields.slice(plan.columns.length + 1).some((f) => f.trim() !== '')
    )
      return fail('too-many-fields', `${fields.length} fields instead of ${plan.columns.length + 1}.`);
    const written = fields[plan.timeColumn]!;
    const timeS =
      plan.timeScale === 'date' ? isoSeconds(written) : parseDecimal(written, plan.decimal) * plan.timeScale;
    if (!Number.isFinite(timeS))
      return fail('no-time', `the time “${written.slice(0, 40)}” is not a number or a date.`);
    const values: number[] = [];
    for (const c of plan.columns) {
      const text = fields[c.at]!;
      const value = parseDecimal(text, plan.decimal);
      if (Number.isNaN(value) && !isMissing(text))
        return fail('not-a-number', `${c.name} is “${text.slice(0, 40)}”, not a number.`);
      values.push(value);
    }
    times.take(row, timeS, values);
  }

  // Rows of plain numbers, as nearly all are, need no fields cut out of them.
  const scanned = new Float64Array(plan.columns.length + 1);
  const [delimiter, decimal] = [plan.delimiter.charCodeAt(0), plan.decimal.charCodeAt(0)];
  const timeScale = plan.timeScale;
  const places = plan.columns.map((c) => c.at);
  const values = new Float64Array(places.length);

  /** Takes a row of plain numbers; gives where its line end begins, or -1 where it is none, or has no time. */
  function takeNumbers(bytes: Uint8Array, from: number): number {
    if (heading > 0 || timeScale === 'date') return -1;
    const end = scanNumberBytes(bytes, from, delimiter, decimal, scanned);
    if (end < 0) return -1;
    const timeS = scanned[plan.timeColumn]! * timeScale;
    if (Number.isNaN(timeS)) return -1;
    row++;
    for (let k = 0; k < places.length; k++) values[k] = scanned[places[k]!]!;
    times.take(row, timeS, values);
    return end;
  }

  /** Whole rows that hold no quotes, each with its line end. */
  function takeRows(bytes: Uint8Array, start: number, upTo: number): void {
    let from = start;
    while (from < upTo) {
      let end = takeNumbers(bytes, from);
      if (end < 0) {
        end = bytes.indexOf(LINE_END, from);
        takeText(new TextDecoder().decode(bytes.subarray(from, end)).replace(/\r$/, ''));
      } else if (bytes[end] !== LINE_END) end++;
      from = end + 1;
    }
  }

  function takeText(rows: string): void {
    for (const fields of Papa.parse<string[]>(rows, { delimiter: plan.delimiter }).data) take(fields);
  }

  function pushPlain(piece: Uint8Array): void {
    const first = piece.indexOf(LINE_END) + 1;
    if (first === 0) {
      rest = joined(rest, piece);
      return;
    }
    if (rest.length > 0) {
      const begun = joined(rest, piece.subarray(0, first));
      takeRows(begun, 0, begun.length);
    } else takeRows(piece, 0, first);
    const last = piece.lastIndexOf(LINE_END) + 1;
    takeRows(piece, first, last);
    rest = piece.slice(last);
  }

  /** What is not read yet, once there was a quote; null before. */
  let text: string | null = null;
  let looked = 0;
  let quoted = false;

  function pushQuoted(piece: Uint8Array): void {
    text = (text ?? '') + decoder.decode(piece, { stream: true });
    let end = 0;
    for (; looked < text.length; looked++) {
      const c = text.charCodeAt(looked);
      if (c === QUOTE) quoted = !quoted;
      else if (c === LINE_END && !quoted) end = looked + 1;
    }
    flush(end);
  }

  function flush(upTo: number): void {
    if (upTo === 0) return;
    const rows = text!.slice(0, upTo).replace(/\r?\n$|\r$/, '');
    text = text!.slice(upTo);
    looked -= upTo;
    takeText(rows);
  }

  return {
    push(bytes) {
      let piece = bytes;
      if (!started) {
        // A byte order mark may come in pieces itself.
        piece = joined(rest, bytes);
        rest = new Uint8Array(0);
        if (piece.length < 3) {
          rest = piece;
          return;
        }
        started = true;
        if (piece[0] === 0xef && piece[1] === 0xbb && piece[2] === 0xbf) piece = piece.subarray(3);
      }
      if (text === null && !piece.includes(QUOTE)) return pushPlain(piece);
      if (text === null) {
        piece = joined(rest, piece);
        rest = new Uint8Array(0);
      }
      pushQuoted(piece);
    },
    finish() {
      if (text === null) {
        if (rest.length > 0) {
          started = true;
          pushPlain(Uint8Array.of(LINE_END));
        }
      } else {
        text += decoder.decode();
        if (text !== '') flush(text.length);
      }
      times.finish();
    },
  };
}

/** A copy of both: a piece may be used again by whoever gave it. */
function joined(a: Uint8Array, b: Uint8Array): Uint8Array {
  const both = new Uint8Array(a.length + b.length);
  both.set(a);
  both.set(b, a.length);
  return both;
}

const isMissing = (text: string) => /^(|nan|n\/a|na|null|none|-|–|#n\/a)$/i.test(text.trim());

/** Writes a delimited file row by row: names with units in the heading, a missing value as an empty field. */
export function delimitedWriter(
  columns: readonly TableColumn[],
  { delimiter = ',', decimal = '.' }: { delimiter?: string; decimal?: '.' | ',' } = {},
) {
  const number = (v: number) =>
    Number.isFinite(v) ? (decimal === ',' ? String(v).replace('.', ',') : String(v)) : '';
  if (delimiter === decimal)
    throw new RangeError(
      `The column separator and the decimal separator must differ; both are “${delimiter}”.`,
    );
  return {
    heading: () =>
      [
        'time [s]',
        ...columns.map((c) => csvField(c.unit ? `${c.name} [${c.unit}]` : c.name, delimiter)),
      ].join(delimiter),
    row: (timeS: number, values: readonly number[]) => [timeS, ...values].map(number).join(delimiter),
  };
}
