import { isoSeconds } from '../units/dates.ts';
import { lineSplitter } from './lineSplitter.ts';
import { STAMP_WORDS, stampScale } from './stampScale.ts';
import { fileTimes } from './fileTimes.ts';
import { type TableColumn, type TableReader, type TableSink } from './tableSink.ts';

const TIME_KEYS: Readonly<Record<string, number>> = {
  t: 1,
  time: 1,
  ts: 1,
  timestamp: 1,
  time_s: 1,
  ms: 1e-3,
  time_ms: 1e-3,
  us: 1e-6,
};
const LIMIT = 1_000_000;

/**
 * Reads newline-delimited JSON: an object a line, numbers by name, time under t, time, ts, timestamp, time_s (seconds or an
 * ISO date), ms or us. Columns are those of the first good line; missing ones are NaN, further ones an issue once each.
 */
export function ndjsonReader(sink: TableSink): TableReader {
  let names: string[] | null = null;
  let row = 0;
  const told = new Set<string>();
  const times = fileTimes(sink);
  const issue = (code: string, text: string) => sink.issue({ code, row, text: `Line ${row}: ${text}` });
  /** The first stamp of a key tells what all of them count. */
  const scales = new Map<string, number>();
  function scaleOf(key: string, written: number): number {
    const known = scales.get(key);
    if (known !== undefined) return known;
    const named = TIME_KEYS[key]!;
    const scale = named === 1 ? stampScale(written) : named;
    scales.set(key, scale);
    if (scale !== named) sink.remark?.(`${STAMP_WORDS[scale]!} in “${key}”, judged by their size`);
    return scale;
  }
  const split = lineSplitter((line) => {
    row++;
    if (line.trim() === '') return;
    if (line.length > LIMIT) return issue('too-long', `longer than ${LIMIT} characters.`);
    const record = parseObject(line);
    if (!record) return issue('not-json', `not a JSON object: “${line.slice(0, 40)}”.`);
    const timeKey = Object.keys(record).find((key) => Object.hasOwn(TIME_KEYS, key.toLowerCase()));
    const written = timeKey === undefined ? undefined : record[timeKey];
    const timeS =
      typeof written === 'number'
        ? written * scaleOf(timeKey!.toLowerCase(), written)
        : typeof written === 'string'
          ? isoSeconds(written)
          : Number.NaN;
    if (!Number.isFinite(timeS))
      return issue('no-time', 'no time found in t, time, ts, timestamp, ms or us.');
    const data = Object.entries(record).filter(([key]) => key !== timeKey);
    if (!names) {
      names = data.filter(([, v]) => typeof v === 'number' || v === null).map(([key]) => key);
      sink.columns(names.map((name): TableColumn => ({ name, unit: null })));
    }
    for (const [key] of data) {
      if (!names.includes(key) && !told.has(key)) {
        told.add(key);
        issue('unknown-column', `“${key}” is not in the first line and is ignored.`);
      }
    }
    // An own value only: every object has a constructor.
    const values = names.map((name) =>
      Object.hasOwn(record, name) ? (record[name] ?? Number.NaN) : Number.NaN,
    );
    const bad = values.findIndex((v) => typeof v !== 'number' || Math.abs(v) === Number.POSITIVE_INFINITY);
    if (bad >= 0)
      return issue(
        'not-a-number',
        `${names[bad]} is ${String(JSON.stringify(values[bad]) ?? values[bad]).slice(0, 40)}${values[bad] === Number.POSITIVE_INFINITY ? ', which is too large for a number' : ''}.`,
      );
    times.take(row, timeS, values as number[]);
  }, LIMIT + 1);
  return { push: split, finish: () => (split('\n'), times.finish()) };
}

function parseObject(line: string): Record<string, unknown> | null {
  try {
    const value: unknown = JSON.parse(line);
    return typeof value === 'object' && value !== null && !Array.isArray(value)
      ? (value as Record<string, unknown>)
      : null;
  } catch {
    return null;
  }
}

/** One line; a bad sample is null. */
export function ndjsonRow(columns: readonly TableColumn[], timeS: number, values: readonly number[]): string {
  const entries = columns.map((c, i) => [c.name, Number.isFinite(values[i]!) ? values[i]! : null] as const);
  return JSON.stringify(Object.fromEntries([['t', timeS] as const, ...entries]));
}
