import type { RowIssue } from '../model/recording.ts';
import type { UnitId } from '../units/index.ts';
import type { TableColumn } from './tableSink.ts';

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
  if (!Array.isArray(pack))
    throw new TypeError('A SenML pack is a JSON array of records; received something else.');
  const base = { name: '', time: 0, unit: null as string | null, value: 0 };
  const records: SenmlRecord[] = [];
  const issues: RowIssue[] = [];
  pack.forEach((item: unknown, row) => {
    const issue = (code: string, words: string) =>
      issues.push({ code, row, text: `Record ${row}: ${words}` });
    if (typeof item !== 'object' || item === null) return issue('not-a-record', 'no object.');
    const r = item as RawRecord;
    // A label that ends with an underscore must be understood or the pack refused (4.4).
    const must = Object.keys(r).find((key) => key.endsWith('_'));
    if (must) return issue('unknown-must', `"${must}" must be understood but is not known.`);
    if (r.bver !== undefined && r.bver > 10) return issue('version', `version ${r.bver} is newer than 10.`);
    base.name = r.bn ?? base.name;
    base.time = r.bt ?? base.time;
    base.unit = r.bu ?? base.unit;
    base.value = r.bv ?? base.value;
    const name = base.name + (r.n ?? '');
    if (
      r.v === undefined &&
      r.vb === undefined &&
      r.s === undefined &&
      r.vs === undefined &&
      r.vd === undefined
    )
      return;
    if (!/^[A-Za-z0-9][A-Za-z0-9\-:./_]*$/.test(name))
      return issue('bad-name', `"${name}" is no SenML name.`);
    if (r.vs !== undefined || r.vd !== undefined) return issue('no-number', `${name} is text or data.`);
    const value = r.v !== undefined ? r.v + base.value : r.vb !== undefined ? Number(r.vb) : r.s;
    if (typeof value !== 'number' || !Number.isFinite(value))
      return issue('no-number', `${name} has no finite value.`);
    const time = base.time + (r.t ?? 0);
    records.push({ name, unit: r.u ?? base.unit, timeS: time < RELATIVE_BELOW ? nowS + time : time, value });
  });
  return { records, issues };
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
