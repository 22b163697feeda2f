import type { RowIssue } from '../model/recording.ts';
import { unitNamed, type UnitId } from '../units/index.ts';
import type { TableColumn, TableReader } from './tableSink.ts';

export interface SenmlRecord {
  readonly name: string;
  readonly unit: string | null;
  readonly timeS: number;
  readonly value: number;
}

interface RawRecord {
  bn?: string;
  bt?: number;
  bu?: string;
  bv?: number;
  bver?: number;
  n?: string;
  u?: string;
  v?: number;
  vb?: boolean;
  vs?: string;
  vd?: string;
  s?: number;
  t?: number;
  [key: string]: unknown;
}

/** Times below this are relative to now (RFC 8428, 4.5.3). */
const RELATIVE_BELOW = 2 ** 28;

/**
 * Resolves a SenML pack (RFC 8428): base name, time, unit and value carried along. Booleans become 0 and 1; strings and data
 * are issues, since they are no measurement.
 * @param text JSON array of records
 * @param nowS seconds since 1970, for relative times
 * @throws {SyntaxError} when the text is no JSON; {TypeError} when it is no array
 */
export function readSenml(text: string, nowS: number): { records: SenmlRecord[]; issues: RowIssue[] } {
  const pack: unknown = JSON.parse(text);
  if (!Array.isArray(pack)) throw new TypeError('A SenML pack must be a JSON array of records.');
  const records: SenmlRecord[] = [];
  const issues: RowIssue[] = [];
  const take = resolver(
    nowS,
    (r) => records.push(r),
    (i) => issues.push(i),
  );
  for (const item of pack as unknown[]) take(item);
  return { records, issues };
}

/** A record longer than this is noise. */
const LONGEST = 100_000;

/**
 * Reads a pack of any length piece by piece: each record is resolved as soon as its last brace has come.
 * What is no JSON array of objects becomes an issue.
 */
export function senmlReader(
  nowS: number,
  record: (record: SenmlRecord) => void,
  issue: (issue: RowIssue) => void,
): TableReader {
  const take = resolver(nowS, record, issue);
  let text = '';
  let depth = 0;
  let quoted = false;
  let escaped = false;
  let row = 0;
  const end = () => {
    let item: unknown = null;
    try {
      item = JSON.parse(text);
    } catch {
      // Told below as no record.
    }
    take(item);
    text = '';
    row++;
  };
  return {
    push(piece) {
      for (const c of piece) {
        if (depth > 0) {
          if (text.length < LONGEST) text += c;
          if (escaped) escaped = false;
          else if (quoted && c === '\\') escaped = true;
          else if (c === '"') quoted = !quoted;
        }
        if (quoted) continue;
        if (c === '{') {
          if (depth === 0) text = c;
          depth++;
        } else if (c === '}' && depth > 0 && --depth === 0) end();
      }
    },
    finish() {
      if (depth > 0)
        issue({ code: 'cut-short', row, text: `Record ${row}: the pack ends in the middle of this record.` });
      else if (row === 0) issue({ code: 'not-a-record', row: 0, text: 'No records found.' });
    },
  };
}

/** Resolves one record after the other, with what they carry along. */
function resolver(
  nowS: number,
  record: (record: SenmlRecord) => void,
  tell: (issue: RowIssue) => void,
): (item: unknown) => void {
  const base = { name: '', time: 0, unit: null as string | null, value: 0 };
  let next = 0;
  return (item) => {
    const row = next++;
    const issue = (code: string, words: string) => tell({ code, row, text: `Record ${row}: ${words}` });
    if (typeof item !== 'object' || item === null) return issue('not-a-record', 'not an object.');
    const r = item as RawRecord;
    // A label that ends with an underscore must be understood or the pack refused (4.4).
    const must = Object.keys(r).find((key) => key.endsWith('_'));
    if (must) return issue('unknown-must', `“${must}” is required but not supported.`);
    if (r.bver !== undefined && r.bver > 10)
      return issue('version', `version ${r.bver} is newer than 10 and is not supported.`);
    const words = [r.bn, r.bu, r.n, r.u].find((v) => v !== undefined && typeof v !== 'string');
    const numbers = [r.bt, r.bv, r.t, r.v, r.s].find((v) => v !== undefined && !Number.isFinite(v));
    if (words !== undefined || numbers !== undefined)
      return issue(
        'wrong-type',
        `${JSON.stringify(words ?? numbers).slice(0, 40)} has the wrong type (text instead of a number, or the reverse).`,
      );
    base.name = r.bn ?? base.name;
    base.time = r.bt ?? base.time;
    base.unit = r.bu ?? base.unit;
    base.value = r.bv ?? base.value;
    const name = base.name + (r.n ?? '');
    const holds = [r.v, r.vb, r.s, r.vs, r.vd].some((v) => v !== undefined);
    if (!holds) return;
    if (!/^[A-Za-z0-9][A-Za-z0-9\-:./_]*$/.test(name))
      return issue('bad-name', `“${name}” is not a valid SenML name.`);
    if (r.vs !== undefined || r.vd !== undefined)
      return issue('no-number', `${name} is text or binary data, not a number.`);
    const value = r.v !== undefined ? r.v + base.value : r.vb !== undefined ? Number(r.vb) : r.s;
    if (typeof value !== 'number' || !Number.isFinite(value))
      return issue('no-number', `${name} has no finite value.`);
    const time = base.time + (r.t ?? 0);
    record({ name, unit: r.u ?? base.unit, timeS: time < RELATIVE_BELOW ? nowS + time : time, value });
  };
}

/** Symbols of the SenML units registry where they differ from ours. */
const SENML_UNITS: Partial<Record<UnitId, string>> = {
  degC: 'Cel',
  ohm: 'Ohm',
  percent: '%',
  mps: 'm/s',
  mps2: 'm/s2',
  deg: 'deg',
  perMin: '1/min',
  count: 'count',
};

/** A pack of one channel's readings or several: base name and time once, then differences. Bad samples are left out. */
export function writeSenml(
  baseName: string,
  columns: readonly TableColumn[],
  rows: readonly { readonly timeS: number; readonly values: readonly number[] }[],
): string {
  const first = rows[0]?.timeS ?? 0;
  const records: RawRecord[] = rows.flatMap(({ timeS, values }) =>
    columns.flatMap((c, i) => {
      const v = values[i]!;
      if (!Number.isFinite(v)) return [];
      const u = c.unit ? (SENML_UNITS[c.unit] ?? c.unit) : undefined;
      return [{ n: c.name.replace(/[^A-Za-z0-9\-:./_]/g, '_'), ...(u ? { u } : {}), v, t: timeS - first }];
    }),
  );
  if (records.length > 0) records[0] = { bn: baseName, bt: first, ...records[0] };
  return JSON.stringify(records);
}

/** Our unit for one of the SenML registry, or for a symbol of our own; null for one that is not known. */
export function senmlUnit(unit: string | null): UnitId | null {
  if (unit === null) return null;
  const listed = Object.entries(SENML_UNITS).find(([, symbol]) => symbol === unit);
  return listed ? (listed[0] as UnitId) : (unitNamed(unit) ?? null);
}
