import type { LineFormat, LineMapping, TimeUnit } from '../model/lineMapping.ts';
import { isoSeconds } from '../units/dates.ts';
import { lineFields, type Fields } from './lineFields.ts';
import { mappedReader } from './mappedReader.ts';
import { FIX_COLUMNS } from './nmea.ts';
import { parseDecimal } from './parseDecimal.ts';

export interface DetectedField {
  /** As a mapping names it. */
  readonly field: string;
  /** What the gadget calls it, where it says so. */
  readonly title: string;
  /** What stood there in the newest line. */
  readonly sample: string;
  readonly numeric: boolean;
}

export interface DetectedLines {
  readonly format: LineFormat;
  readonly fields: readonly DetectedField[];
  /** A mapping that fits what is known; columns that nothing was found for are left out. */
  readonly mapping: LineMapping;
  /** Lines among those given that it reads, and that it does not. */
  readonly read: number;
  readonly unread: number;
}

/** The comma after those that stand beside decimal commas. */
const DELIMITERS: readonly LineMapping['delimiter'][] = [';', '\t', '|', ',', ' '];
const TIME =
  /^(t|time|ts|timestamp|ms|millis|time_?ms|time_?s|s|sec|seconds|us|micros|date|datetime|uptime)$/i;
const SEQUENCE = /^(seq|sequence|n|no|number|nr|index|count(er)?|id)$/i;

/**
 * Tells how the lines of a gadget are written, and where each raw column most likely comes from: by its name, else in order.
 * @param lines the newest lines, oldest first; a heading may be among them
 * @param columns names of the raw columns
 * @returns null when no format fits most of the lines
 */
export function detectLines(lines: readonly string[], columns: readonly string[]): DetectedLines | null {
  const full = lines.filter((l) => l.trim() !== '').slice(-50);
  if (full.length === 0) return null;
  if (full.filter((l) => /^\s*\$[A-Z]{5},/.test(l)).length > full.length / 2) return sentences(full, columns);
  const candidates: { format: LineFormat; delimiter: LineMapping['delimiter'] }[] = [
    { format: 'json', delimiter: ',' },
    { format: 'pairs', delimiter: ',' },
    ...DELIMITERS.map((delimiter) => ({ format: 'separated' as const, delimiter })),
  ];
  for (const candidate of candidates) {
    const rows = full.map((line) => lineFields(line, candidate)).filter((f) => f !== null);
    const width = typical(rows.map((r) => r.size));
    const alike = rows.filter(
      (r) => r.size === width && holdsNumbers(r, candidate.format, candidate.delimiter),
    );
    if (alike.length < 0.6 * full.length || alike.length === 0) continue;
    if (candidate.format === 'separated' && width === 1 && candidate.delimiter !== ' ') continue;
    return detected(candidate, full, alike, columns);
  }
  return null;
}

function detected(
  { format, delimiter }: { format: LineFormat; delimiter: LineMapping['delimiter'] },
  lines: readonly string[],
  rows: readonly Fields[],
  columns: readonly string[],
): DetectedLines {
  const decimal = decimalOf(rows, delimiter, format);
  const newest = rows.at(-1)!;
  const names = format === 'separated' ? headingOf(lines, delimiter, newest.size) : null;
  const fields: DetectedField[] = [...newest].map(([field, sample], i) => ({
    field,
    title: names?.[i] ?? field,
    sample,
    numeric: Number.isFinite(parseDecimal(sample, decimal)),
  }));
  const time = timeOf(fields, rows, decimal);
  const sequence = sequenceOf(fields, rows, decimal, time?.field ?? null);
  const free = fields.filter((f) => f.field !== time?.field && f.field !== sequence && f.numeric);
  const byName = columns.map((column) => free.find((f) => same(f.title, column))?.field ?? null);
  // With no name in common, order is the best that there is.
  const chosen = byName.some((f) => f !== null) ? byName : columns.map((_, i) => free[i]?.field ?? null);
  const found = columns.flatMap((column, i) => (chosen[i] ? [{ column, field: chosen[i] }] : []));
  const mapping: LineMapping = {
    format,
    delimiter,
    decimal,
    time,
    sequence,
    columns: found.length > 0 ? found : [{ column: columns[0] ?? 'value', field: fields[0]!.field }],
  };
  return { format, fields, mapping, ...counted(lines, mapping, columns) };
}

function sentences(lines: readonly string[], columns: readonly string[]): DetectedLines {
  const names = FIX_COLUMNS.map((c) => c.name as string);
  const found = columns.flatMap((column) => {
    const field = names.find((n) => same(n, column));
    return field ? [{ column, field }] : [];
  });
  const mapping: LineMapping = {
    format: 'sentences',
    delimiter: ',',
    decimal: '.',
    time: { field: 'time', unit: 's' },
    sequence: null,
    columns: found.length > 0 ? found : [{ column: columns[0] ?? 'speed', field: 'speed' }],
  };
  const fields = names.map((field) => ({ field, title: field, sample: '', numeric: true }));
  return { format: 'sentences', fields, mapping, ...counted(lines, mapping, columns) };
}

function counted(lines: readonly string[], mapping: LineMapping, columns: readonly string[]) {
  const read = mappedReader(mapping, columns);
  const results = lines.map(read);
  return {
    read: results.filter((r) => r.kind === 'reading').length,
    unread: results.filter((r) => r.kind === 'issue').length,
  };
}

function typical(sizes: readonly number[]): number {
  return sizes.toSorted((a, b) => a - b)[sizes.length >> 1] ?? 0;
}

function holdsNumbers(row: Fields, format: LineFormat, delimiter: string): boolean {
  const numbers = [...row.values()].filter(
    (v) => Number.isFinite(parseDecimal(v)) || (delimiter !== ',' && Number.isFinite(parseDecimal(v, ','))),
  ).length;
  // A heading has none; separated fields are numbers but for a date or a word here and there.
  return format === 'separated' ? numbers > 0 && numbers >= row.size - 2 : numbers > 0;
}

function decimalOf(rows: readonly Fields[], delimiter: string, format: LineFormat): '.' | ',' {
  if (format === 'json' || delimiter === ',') return '.';
  const values = rows.flatMap((r) => [...r.values()]);
  return values.some((v) => /^[+-]?\d+,\d+$/.test(v)) ? ',' : '.';
}

/** Names of the columns from a heading among the lines. */
function headingOf(
  lines: readonly string[],
  delimiter: LineMapping['delimiter'],
  width: number,
): string[] | null {
  for (const line of lines) {
    const fields = lineFields(line, { format: 'separated', delimiter });
    if (fields?.size !== width) continue;
    const names = [...fields.values()];
    if (names.every((n) => /^[A-Za-z_"]/.test(n))) return names.map((n) => n.replace(/^"|"$/g, ''));
  }
  return null;
}

/** "Probe 1", "probe_1" and "probe1" are one name. */
const same = (a: string, b: string) => plain(a) === plain(b);
const plain = (name: string) => name.toLowerCase().replace(/[^a-z0-9]/g, '');

/** A field called like a time, or a date, or the first that only grows, in steps that are much alike. */
function timeOf(
  fields: readonly DetectedField[],
  rows: readonly Fields[],
  decimal: '.' | ',',
): LineMapping['time'] {
  const dated = fields.find((f) => Number.isFinite(isoSeconds(f.sample)));
  if (dated) return { field: dated.field, unit: 'date' };
  const named = fields.find((f) => TIME.test(f.title) && f.numeric);
  if (named) return { field: named.field, unit: unitOf(named, rows, decimal) };
  const first = fields[0];
  if (!first?.numeric || rows.length < 3 || fields.length < 2) return null;
  const values = rows.map((r) => parseDecimal(r.get(first.field), decimal));
  const steps = values.slice(1).map((v, i) => v - values[i]!);
  const middle = typical(steps);
  const even = steps.every((s) => s > 0 && s < 10 * middle);
  return even && middle !== 1 ? { field: first.field, unit: unitOf(first, rows, decimal) } : null;
}

/** By its name; else by its steps: gadgets that print thousands a reading count milliseconds or microseconds. */
function unitOf(field: DetectedField, rows: readonly Fields[], decimal: '.' | ','): TimeUnit {
  if (/^(us|micros)$|_us$/i.test(field.title)) return 'us';
  if (/^(ms|millis)$|ms$/i.test(field.title)) return 'ms';
  if (/^(s|sec|seconds|time_?s)$/i.test(field.title)) return 's';
  const values = rows.map((r) => parseDecimal(r.get(field.field), decimal));
  const step = typical(values.slice(1).map((v, i) => Math.abs(v - values[i]!)));
  const whole = values.every(Number.isInteger);
  if (!whole) return 's';
  return step >= 5000 ? 'us' : step >= 5 ? 'ms' : 's';
}

function sequenceOf(
  fields: readonly DetectedField[],
  rows: readonly Fields[],
  decimal: '.' | ',',
  time: string | null,
): string | null {
  const counts = (field: string) => {
    const values = rows.map((r) => parseDecimal(r.get(field), decimal));
    return values.length > 2 && values.every((v, i) => i === 0 || v - values[i - 1]! === 1);
  };
  const named = fields.find((f) => f.field !== time && SEQUENCE.test(f.title) && counts(f.field));
  return named?.field ?? null;
}
