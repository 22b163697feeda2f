import type { LineMapping, TimeUnit } from '../model/lineMapping.ts';
import { MAX_BOARD_LINE } from './boardReader.ts';
import { isoSeconds } from '../units/dates.ts';
import { lineFields, type Fields } from './lineFields.ts';
import { FIX_COLUMNS, nmeaReader } from './nmea.ts';
import { parseDecimal } from './parseDecimal.ts';
import { scanNumbers } from './scanNumbers.ts';
import { isWritableTime } from './stampScale.ts';

export type LineIssueCode = 'too-long' | 'not-that-format' | 'wrong-columns' | 'not-a-number' | 'no-time';

export type LineReading =
  /** Time as the gadget tells it, s; null where it tells none. Values in the gadget's order, NaN where missing. */
  | {
      readonly kind: 'reading';
      readonly timeS: number | null;
      readonly sequence: number | null;
      readonly values: number[];
    }
  | { readonly kind: 'issue'; readonly code: LineIssueCode; readonly text: string }
  /** Nothing to tell yet: an empty line, a heading, half of a pair of sentences. */
  | { readonly kind: 'none' };

const NONE: LineReading = { kind: 'none' };
const SCALE: Readonly<Record<Exclude<TimeUnit, 'date'>, number>> = { s: 1, ms: 1e-3, us: 1e-6 };
/** Longest line that JSON may take; other lines are shorter. */
const MAX_JSON_LINE = 16_384;

/**
 * Reads the lines of a gadget by its mapping. A line that does not fit is an issue, never a guess; a field that says "nan",
 * "null" or nothing is missing.
 * @param columns names of the raw columns, in the order wanted
 */
export function mappedReader(
  mapping: LineMapping,
  columns: readonly string[],
): (line: string) => LineReading {
  const fields = columns.map((name) => mapping.columns.find((c) => c.column === name)?.field ?? null);
  if (mapping.format === 'sentences') return sentenceReader(fields);
  const limit = mapping.format === 'json' ? MAX_JSON_LINE : MAX_BOARD_LINE;
  let width: number | null = null;
  const numbers = numberReader(mapping, fields);
  return (line) => {
    if (line.length > limit) return issue('too-long', `${line.slice(0, 60)}…`);
    if (line.trim() === '') return NONE;
    // Nearly all lines of a fast board are plain numbers with separators.
    const plain = width === null ? null : numbers(line, width);
    if (plain) return plain;
    const found = lineFields(line, mapping);
    if (!found) return issue('not-that-format', line);
    if (mapping.format === 'separated') {
      if (isHeading(found)) return NONE;
      // Half a line has fewer fields: its last number may be cut short too.
      width ??= found.size;
      if (found.size < width) return issue('wrong-columns', line);
      width = found.size;
    }
    return reading(found, line);
  };

  function reading(found: Fields, line: string): LineReading {
    const numberAt = (field: string) => parseDecimal(found.get(field), mapping.decimal);
    let timeS: number | null = null;
    if (mapping.time) {
      const { field, unit } = mapping.time;
      timeS = unit === 'date' ? isoSeconds(found.get(field) ?? '') : numberAt(field) * SCALE[unit];
      if (!(timeS >= 0 && isWritableTime(timeS))) return issue('no-time', line);
    }
    const sequence = mapping.sequence === null ? null : numberAt(mapping.sequence);
    if (sequence !== null && !Number.isInteger(sequence)) return issue('not-a-number', line);
    const values: number[] = [];
    let present = 0;
    for (const field of fields) {
      const text = field === null ? undefined : found.get(field);
      if (text === undefined || isMissing(text)) {
        values.push(Number.NaN);
        continue;
      }
      const value = parseDecimal(text.replace(/^"|"$/g, ''), mapping.decimal);
      if (Number.isNaN(value)) return issue('not-a-number', line);
      values.push(value);
      present++;
    }
    if (present === 0 && !fields.some((f) => f !== null && found.has(f))) return issue('wrong-columns', line);
    return { kind: 'reading', timeS, sequence, values };
  }
}

/** Reads a line of as many plain numbers as the lines before had, or leaves it by answering null. */
function numberReader(
  { format, delimiter, decimal, time, sequence }: LineMapping,
  fields: readonly (string | null)[],
): (line: string, width: number) => LineReading | null {
  if (format !== 'separated' || delimiter === ' ' || time?.unit === 'date') return () => null;
  const place = (field: string | null) => (field === null ? -1 : Number(field) - 1);
  const places = fields.map(place);
  const timeAt = time === null ? null : place(time.field);
  const scale = time === null ? 1 : SCALE[time.unit as keyof typeof SCALE];
  const sequenceAt = sequence === null ? null : place(sequence);
  const scanned = new Float64Array(128);
  const [separator, point] = [delimiter.charCodeAt(0), decimal.charCodeAt(0)];
  return (line, width) => {
    if (scanNumbers(line, 0, line.length, separator, point, scanned) !== width) return null;
    const timeS = timeAt === null ? null : scanned[timeAt]! * scale;
    const count = sequenceAt === null ? null : scanned[sequenceAt]!;
    if (timeS !== null && !(timeS >= 0 && isWritableTime(timeS))) return null;
    if (count !== null && !Number.isInteger(count)) return null;
    const values: number[] = [];
    for (const at of places) values.push(at < 0 || at >= width ? Number.NaN : scanned[at]!);
    return { kind: 'reading', timeS, sequence: count, values };
  };
}

/** Position sentences: two of the same instant make one reading, given when the next instant begins. */
function sentenceReader(fields: readonly (string | null)[]): (line: string) => LineReading {
  const at = fields.map((f) => FIX_COLUMNS.findIndex((c) => c.name === f));
  let given: LineReading = NONE;
  const reader = nmeaReader(
    {
      columns: () => undefined,
      row(timeS, values) {
        given = {
          kind: 'reading',
          timeS,
          sequence: null,
          values: at.map((i) => (i < 0 ? Number.NaN : values[i]!)),
        };
      },
      issue({ text }) {
        given = issue('not-that-format', text);
      },
    },
    { mostUndated: 5 },
  );
  return (line) => {
    if (line.length > MAX_BOARD_LINE) return issue('too-long', `${line.slice(0, 60)}…`);
    given = NONE;
    reader.push(`${line}\n`);
    return given;
  };
}

const isMissing = (text: string) => /^("")?$|^(nan|null|none|n\/a|-{1,2}|–)$/i.test(text);
/** A line of nothing but words: the names of the columns. */
const isHeading = (found: Fields) =>
  [...found.values()].every((v) => /^["A-Za-z_]/.test(v)) && ![...found.values()].every(isMissing);

function issue(code: LineIssueCode, text: string): LineReading {
  return { kind: 'issue', code, text: text.slice(0, 80) };
}
