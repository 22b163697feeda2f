import { parseDecimal } from './parseDecimal.ts';
import { isWritableTime } from './stampScale.ts';

export type BoardReading =
  | { readonly kind: 'reading'; readonly timeS: number; readonly values: number[] }
  | { readonly kind: 'header'; readonly columns: string[] }
  | { readonly kind: 'issue'; readonly code: BoardIssueCode; readonly text: string };

export type BoardIssueCode = 'empty' | 'too-long' | 'wrong-columns' | 'not-a-number' | 'no-time';

/** Longest line a board may print; anything longer is noise on the wire. */
export const MAX_BOARD_LINE = 1000;

/**
 * Reads the text lines a board prints: comma, semicolon, tab or space separated numbers with the board's milliseconds
 * first, a header line naming the columns, or "name:value" / "name=value" pairs in any order.
 * A line that does not fit is an issue, never a guess.
 * @param columns names of the raw columns, in the order wanted
 */
export function boardReader(columns: readonly string[]): (line: string) => BoardReading {
  let order: number[] = columns.map((_, i) => i + 1);
  let timeAt = 0;
  return (text) => {
    if (text.length > MAX_BOARD_LINE) return issue('too-long', `${text.slice(0, 60)}…`);
    const line = text.trim();
    if (line === '') return issue('empty', '');
    if (/^[A-Za-z_][\w ]*(?:[^\S ]\s*)?[:=]/.test(line)) return readPairs(line);
    // An empty field between two separators must stay one, or every later value would slide into its neighbour's place.
    const fields = /[,;\t]/.test(line) ? line.split(/[,;\t]/).map((f) => f.trim()) : line.split(/ +/);
    if (/[A-Za-z_]/.test(fields[0]!) && !/^[+-]?\d/.test(fields[0]!)) return readHeader(fields, line);
    const values = order.map((at) => parseDecimal(fields[at]));
    const ms = parseDecimal(fields[timeAt]);
    if (fields.length !== columns.length + 1) return issue('wrong-columns', line);
    if (!isWritableTime(ms / 1000)) return issue('no-time', line);
    if (!values.every(Number.isFinite)) return issue('not-a-number', line);
    return { kind: 'reading', timeS: ms / 1000, values };
  };

  function readHeader(fields: string[], line: string): BoardReading {
    const at = columns.map((name) => fields.indexOf(name));
    const time = fields.indexOf('ms');
    if (at.includes(-1) || time < 0) return issue('wrong-columns', line);
    order = at;
    timeAt = time;
    return { kind: 'header', columns: fields };
  }

  function readPairs(line: string): BoardReading {
    const found = new Map<string, number>();
    for (const [, name, value] of line.matchAll(/\b([A-Za-z_]\w*)\s*[:=]\s*([^\s,;]+)/g))
      found.set(name!, parseDecimal(value));
    const ms = found.get('ms');
    if (ms === undefined || !isWritableTime(ms / 1000)) return issue('no-time', line);
    const values = columns.map((name) => found.get(name));
    if (values.includes(undefined)) return issue('wrong-columns', line);
    if (!values.every(Number.isFinite)) return issue('not-a-number', line);
    return { kind: 'reading', timeS: ms / 1000, values: values as number[] };
  }
}

function issue(code: BoardIssueCode, text: string): BoardReading {
  return { kind: 'issue', code, text: text.slice(0, 80) };
}
